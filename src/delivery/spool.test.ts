import { spawnSync } from "node:child_process";
import {
  appendFileSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ofNobody } from "@/core/testing";
import type { SiteKept } from "@/data/events";
import { EventQueue } from "./events";
import { Spool } from "./spool";

let folder = "";
beforeEach(() => {
  folder = mkdtempSync(join(tmpdir(), "mirada-spool-"));
  vi.spyOn(console, "error").mockImplementation(() => undefined);
});
afterEach(() => {
  rmSync(folder, { recursive: true, force: true });
  vi.restoreAllMocks();
});

const event = (id: string): SiteKept => ({
  ...{ site: "shop", id, at: "2026-11-24T10:00:00Z", kind: "click", slot: "s", variant: "v", arm: "a" },
  ...{ first: false, name: "", value: 0, ...ofNobody },
});
const inFiles = () =>
  readdirSync(folder)
    .map((name) => readFileSync(join(folder, name), "utf8"))
    .join("");
/** A process that has ended. */
const gone = () => spawnSync("true").pid;
/** As though those files were left by a process that was killed. */
const leave = () => {
  for (const name of readdirSync(folder))
    renameSync(join(folder, name), join(folder, name.replace(/^\d+/, String(gone()))));
};
const takenUp = (spool: Spool): string[] => {
  const found: string[] = [];
  spool.takeUp((events) => void found.push(...events.map(({ id }) => id)));
  return found;
};

describe("events on disk", () => {
  it("are there until they are written, and are taken up once by whoever comes next", () => {
    const one = new Spool(folder);
    one.add([event("a"), event("b")]);
    leave();
    const two = new Spool(folder);
    expect(takenUp(two)).toEqual(["a", "b"]);
    expect(takenUp(two)).toEqual([]);
    two.add([event("c")]);
    two.written([]);
    expect(inFiles()).toBe("");
    two.add([event("d")]);
    leave();
    expect(takenUp(new Spool(folder))).toEqual(["d"]);
    expect(takenUp(new Spool(folder))).toEqual([]);
  });
  it("are not those of a process that still runs, nor what is no spool", () => {
    new Spool(folder).add([event("a")]);
    renameSync(join(folder, readdirSync(folder)[0]!), join(folder, `${process.ppid}-00ff.jsonl`));
    writeFileSync(join(folder, "notes.txt"), "mine");
    expect(takenUp(new Spool(folder))).toEqual([]);
    expect(inFiles()).toContain("mine");
  });
  it("are whole but for a line that was cut off", () => {
    const one = new Spool(folder);
    one.add([event("a")]);
    appendFileSync(join(folder, readdirSync(folder)[0]!), '{"site":"shop","id":"half');
    leave();
    expect(takenUp(new Spool(folder))).toEqual(["a"]);
  });
  it("that cannot be read, or written any more, keep nobody from going on", () => {
    mkdirSync(join(folder, `${gone()}-00ff.jsonl`));
    const spool = new Spool(folder);
    expect(takenUp(spool)).toEqual([]);
    for (const name of readdirSync(folder)) rmSync(join(folder, name), { recursive: true });
    spool.add([event("a")]);
    for (let time = 0; time < 2; time++) spool.close();
    expect(() => spool.add([event("b")])).not.toThrow();
    expect(() => spool.written([])).not.toThrow();
  });
  it("do not grow for ever while some always wait", () => {
    const spool = new Spool(folder);
    const long = { ...event("x"), name: "n".repeat(5000) };
    for (let time = 0; time < 40; time++) {
      spool.add(Array.from({ length: 100 }, () => long));
      spool.written([event("waits")]);
    }
    expect(inFiles().length).toBeLessThan(17_000_000);
    leave();
    expect(takenUp(new Spool(folder))).toContain("waits");
  });
  it("a queue keeps what it takes there until the database has it, and goes on with what was left", async () => {
    const kept: string[] = [];
    const write = (events: readonly SiteKept[]) => {
      kept.push(...events.map(({ id }) => id));
      return Promise.resolve(events.length);
    };
    const killed = new EventQueue(10, 100, 5, () => Promise.reject(new Error("away")), new Spool(folder));
    const { site, ...a } = event("a");
    expect(killed.take(site, [a])).toBe(true);
    leave();
    const next = new EventQueue(10, 100, 5, write, new Spool(folder));
    await vi.waitFor(() => expect(kept).toEqual(["a"]));
    const { site: again, ...b } = event("b");
    next.take(again, [b]);
    expect(inFiles()).toContain('"b"');
    await vi.waitFor(() => expect(inFiles()).toBe(""));
    expect(kept).toEqual(["a", "b"]);
  });
});
