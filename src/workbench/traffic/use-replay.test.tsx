// @vitest-environment jsdom
import { File } from "node:buffer";
import { act, useEffect } from "react";
import { afterEach, beforeEach, expect, it, vi } from "vitest";
import { Replay } from "@/core/replay/replay";
import { LogReader } from "@/core/replay/log-line";
import { ruleset, variant } from "@/core/testing";
import { mount, type Mounted } from "../testing";
import { firstTime, useReplay, type LogSource } from "./use-replay";

const rules = ruleset({ slots: [{ id: "s", name: "S", variants: [variant("a")] }] });
const wanted = { ruleset: rules, against: rules, consent: false, pages: [] };
const line = (at = "24/Nov/2026:10:15:00 +0000") =>
  `192.0.2.1 - - [${at}] "GET / HTTP/1.1" 200 512 "-" "Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36"`;
// A whole one: that of jsdom cannot be read.
vi.stubGlobal("File", File);
const file = (name: string, text: string) => new File([text], name) as unknown as LogSource & globalThis.File;

/** The workers of a replay, here on the same thread, in pieces as they come. */
let crews: { ended: boolean }[];
let held: Promise<void> | undefined;
vi.mock("./crew", () => {
  class Stopped extends Error {}
  class Crew {
    ended = false;
    #replay = new Replay(rules, { against: rules, consent: false, detail: true, lookup: () => undefined });
    constructor() {
      crews.push(this);
    }
    async *read(bytes: Uint8Array, first: boolean) {
      const text = new TextDecoder().decode(bytes);
      yield { shares: [text], damage: first && text.includes("DAMAGED") ? "it is cut short" : undefined };
    }
    async decide([text]: [string]) {
      await held;
      if (this.ended) throw new Stopped();
      this.#replay.take(text);
      return this.#replay.progress;
    }
    async tallies() {
      return [this.#replay.tally()];
    }
    end() {
      this.ended = true;
    }
  }
  return { Crew, Stopped };
});

let replay: ReturnType<typeof useReplay>;
function Probe() {
  const now = useReplay({ placesOf: () => Promise.resolve([]) } as never);
  useEffect(() => {
    replay = now;
  });
  return null;
}
const start = (...sources: LogSource[]) => act(async () => replay.start(sources, wanted));
let page: Mounted;
beforeEach(async () => {
  crews = [];
  held = undefined;
  page = await mount(<Probe />);
});
afterEach(() => page.end());

it("adds up several files, and ends its workers", async () => {
  await start(file("a.log", `${line()}\n${line()}\n`), file("b.log", `${line()}\n`));
  expect(replay.state).toMatchObject({ phase: "done", tally: { lines: 3, broken: 0 }, problems: [] });
  expect(crews.map((crew) => crew.ended)).toEqual([true]);
});
it("says that nothing is in it, or nothing that can be read", async () => {
  await start(file("empty.log", ""));
  expect(replay.state).toMatchObject({ phase: "failed", problems: ["There is no line in it."] });
  await start(file("few.log", "hello\nworld\n"));
  expect(replay.state).toMatchObject({ phase: "failed", tally: undefined });
  expect(replay.state.problems).toHaveLength(1);
});
it("gives up a long file of another format early, and says what is expected", async () => {
  await start(file("other.csv", "a,b,c\n".repeat(1000)));
  expect(replay.state.phase).toBe("failed");
  expect(replay.state.problems[0]).toContain("other.csv is in another format");
});
it("counts what could be read of a damaged file, and says so", async () => {
  await start(file("cut.log", `${line()}\nDAMAGED\n`));
  expect(replay.state).toMatchObject({ phase: "done", tally: { lines: 2, broken: 1 } });
  expect(replay.state.problems).toEqual(["cut.log: it is cut short"]);
});
it("stops when it is told to, and when its screen is left", async () => {
  let go = () => {};
  held = new Promise((done) => (go = done));
  const running = replay.start([file("a.log", `${line()}\n`)], wanted);
  await act(async () => replay.stop());
  go();
  await act(async () => running);
  expect([replay.state.phase, crews[0]?.ended]).toEqual(["stopped", true]);
  held = new Promise((done) => (go = done));
  void replay.start([file("a.log", `${line()}\n`)], wanted);
  await page.end();
  expect(crews[1]?.ended).toBe(true);
  go();
});
it("says what could not be fetched", async () => {
  const fetched = globalThis.fetch;
  vi.stubGlobal("fetch", () => Promise.resolve(new Response(null, { status: 404 })));
  await start({ name: "away.log", address: "https://shop.example/away.log" });
  vi.stubGlobal("fetch", fetched);
  expect(replay.state).toMatchObject({ phase: "failed", problems: ["The log could not be fetched."] });
});
it("orders rotated logs by their first line that can be read", async () => {
  const reader = new LogReader();
  const read = (text: string) => reader.read(text);
  const early = await firstTime(file("b.log", `broken\n${line("23/Nov/2026:10:15:00 +0000")}\n`), read);
  const late = await firstTime(file("a.log", `${line()}\n`), read);
  expect([late - early, await firstTime(file("c.log", "none"), read)]).toEqual([86_400_000, Infinity]);
});
