/** Replaying an access log: reading beside a splitter with one pattern a line, and deciding beside plain splitting. */
import UserAgent from "user-agents";
import { readRuleset } from "@/core/ruleset/check";
import { LogReader } from "@/core/replay/log-line";
import { Replay } from "@/core/replay/replay";
import { demoRuleset } from "../demo/ruleset";
import { cpu, line, random } from "./measure";

const paths = [
  "/",
  "/ferns",
  "/ferns/maidenhair",
  "/succulents",
  "/seed-boxes",
  "/tools",
  "/cart",
  "/care/first-frost",
  "/advice?topic=water",
  "/?utm_source=mossmail&utm_campaign=winter-light",
];
const assets = ["/brackenfold/hero-ferns.svg", "/app.js", "/shop.css", "/icon.svg"];
const referrers = [
  "-",
  "-",
  "https://quarry.example/search?q=shade+fern",
  "https://brackenfold.example/",
  "https://stone-and-moss.example/shade",
];
const two = (n: number): string => String(n).padStart(2, "0");

/** A made-up log of one day: pages and what belongs to them, by visitors with real user agents. */
function makeLog(lines: number): string {
  const agents = Array.from({ length: 60 }, () => new UserAgent().toString());
  const out: string[] = [];
  for (let index = 0; index < lines; index++) {
    const second = Math.floor((index / lines) * 86_400);
    const clock = `${two(Math.floor(second / 3600))}:${two(Math.floor(second / 60) % 60)}:${two(second % 60)}`;
    const target = random(3) === 0 ? paths[random(paths.length)] : assets[random(assets.length)];
    const ip = `198.51.${random(40)}.${random(250)}`;
    out.push(
      `${ip} - - [24/Nov/2026:${clock} +0000] "GET ${target} HTTP/1.1" 200 ${random(50_000)} "${referrers[random(referrers.length)]}" "${agents[random(agents.length)]}"`,
    );
  }
  return out.join("\n") + "\n";
}

const pattern = /^(\S+) \S+ \S+ \[([^\]]+)\] "(\S+) (\S+) [^"]*" (\d{3}) (\S+) "([^"]*)" "([^"]*)"/;

export async function replayFigures(): Promise<void> {
  const lines = 200_000;
  const text = makeLog(lines);
  const read = readRuleset(demoRuleset(0));
  const other = readRuleset({
    ...demoRuleset(0),
    slots: demoRuleset(0).slots?.map((slot) => ({ ...slot, variants: slot.variants?.slice(1) ?? [] })),
  });
  if (!read.ok || !other.ok) throw new Error("the demo's ruleset is wrong");
  const reader = new LogReader();
  const bytes = Buffer.from(text);
  const size = 1 << 20;
  /** The file piece by piece, as it is read. */
  const pieces = (take: (piece: string) => void) => {
    for (let from = 0; from < bytes.length; from += size)
      take(bytes.toString("latin1", from, Math.min(bytes.length, from + size)));
  };
  let kept = 0;
  const lined = (each: (text: string, from: number, to: number) => void, begin: () => void) => {
    let rest = "";
    pieces((piece) => {
      const whole = rest + piece;
      let from = 0;
      begin();
      for (let end = whole.indexOf("\n"); end >= 0; end = whole.indexOf("\n", from)) {
        each(whole, from, end);
        from = end + 1;
      }
      rest = whole.slice(from);
    });
  };
  const nothing = () => undefined;
  const work = {
    splitting: () => void (kept += bytes.toString("latin1").split("\n").length),
    "splitting with one pattern a line": () =>
      lined((whole, from, to) => void (kept += pattern.exec(whole.slice(from, to))?.length ?? 0), nothing),
    reading: () =>
      lined(
        (whole, from, to) => void (kept += reader.scan(whole, from, to) ? 1 : 0),
        () => reader.begin(),
      ),
    "reading and deciding": () => {
      const replay = new Replay(read.value);
      pieces((piece) => replay.take(piece));
      replay.end();
      kept += replay.result().views;
    },
    "reading, deciding twice, in detail": () => {
      const replay = new Replay(read.value, { against: other.value, detail: true });
      pieces((piece) => replay.take(piece));
      replay.end();
      kept += replay.result().views;
    },
  };
  const spent: Record<string, number> = {};
  // Each once to warm up, then the best of three: other work on the machine only ever adds.
  for (const [name, run] of Object.entries(work)) {
    await cpu(run);
    spent[name] = Math.min(await cpu(run), await cpu(run), await cpu(run));
  }
  const per = (name: keyof typeof work) => Math.round(lines / (spent[name] as number));
  line({
    figure: "replay, lines per CPU second",
    lines,
    splitting: per("splitting"),
    "splitting with one pattern a line": per("splitting with one pattern a line"),
    reading: per("reading"),
    "reading and deciding": per("reading and deciding"),
    "reading, deciding twice, in detail": per("reading, deciding twice, in detail"),
    "reading beside the pattern": Number((per("reading") / per("splitting with one pattern a line")).toFixed(2)),
    "reading and deciding beside splitting": Number((per("reading and deciding") / per("splitting")).toFixed(3)),
    kept: kept > 0,
  });
}
