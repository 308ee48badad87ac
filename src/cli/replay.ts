import { spawn } from "node:child_process";
import { once } from "node:events";
import { closeSync, fstatSync, openSync, readSync } from "node:fs";
import { availableParallelism } from "node:os";
import { buffer, text } from "node:stream/consumers";
import { fileURLToPath } from "node:url";
import { deserialize } from "node:v8";
import { Replay } from "@/core/replay/replay";
import { LineShares, type Lines } from "@/core/replay/shares";
import { addShares, resultOf, type Tally } from "@/core/replay/tally";
import { BadInput } from "./input";
import { isPacked, readLog, readReplay } from "./replay-log";

/** Another process takes about as long to start as one takes for so much of a log, in bytes. */
const worthAProcess = 128 << 20;
/** About how much longer a packed log is than its file. */
const packing = 10;
const mostProcesses = 8;

/** Decides every page view of an access log under the rules and prints what was counted, as JSON. */
export async function replay(args: string[]): Promise<number> {
  const { ruleset, file, options } = readReplay(args);
  const of = processesFor(file);
  let tally: Tally;
  if (of > 1) tally = await sharedOut(file, args, of);
  else {
    const run = new Replay(ruleset, options);
    const decoder = new TextDecoder();
    await readLog(file, (piece) => run.take(decoder.decode(piece, { stream: true })));
    run.take(decoder.decode());
    run.end();
    tally = run.tally();
  }
  process.stdout.write(`${JSON.stringify(resultOf(tally, ruleset, options.against !== undefined))}\n`);
  return 0;
}

/** Over how many processes a log is shared out, where it is long enough: one for each core but the one that reads it. */
function processesFor(file: string): number {
  const wanted = Number(process.env.MIRADA_PROCESSES);
  if (wanted >= 1) return Math.min(mostProcesses, Math.floor(wanted));
  if (file === "-") return 1;
  try {
    const opened = openSync(file, "r");
    try {
      const head = new Uint8Array(2);
      readSync(opened, head);
      const bytes = fstatSync(opened).size * (isPacked(head) ? packing : 1);
      return Math.max(1, Math.min(mostProcesses, availableParallelism() - 1, Math.floor(bytes / worthAProcess)));
    } finally {
      closeSync(opened);
    }
  } catch {
    // What is wrong with the file is said where it is read.
    return 1;
  }
}

/** Reads a log here and has it decided by so many processes, each a share of the visitors. @throws BadInput */
async function sharedOut(file: string, args: string[], of: number): Promise<Tally> {
  const program = fileURLToPath(new URL("./replay-share.ts", import.meta.url));
  const children = Array.from({ length: of }, () => spawn(process.execPath, [...process.execArgv, program, ...args]));
  const end = () => children.forEach((child) => child.kill());
  process.once("exit", end);
  try {
    const tallies = children.map(async (child) => {
      const [out, said, [code]] = await Promise.all([
        buffer(child.stdout),
        text(child.stderr),
        once(child, "close") as Promise<[number | null]>,
      ]);
      if (code !== 0) throw new Error(`a process ended with ${code}: ${said}`);
      return deserialize(out) as Tally;
    });
    // Should one of them end too early, that is what is told, not that nothing could be written to it.
    children.forEach((child) => child.stdin.on("error", () => undefined));
    const shares = new LineShares(of);
    const hand = (lines: Lines[]) =>
      Promise.all(
        lines.map(async ({ bytes }, number) => {
          const input = children[number]?.stdin;
          if (input && bytes.length > 0 && !input.write(bytes) && !input.destroyed)
            await Promise.race([once(input, "drain"), tallies[number]]);
        }),
      );
    const reading = readLog(file, async (piece) => void (await hand(shares.take(piece)))).then(async () => {
      await hand(shares.end());
      children.forEach((child) => child.stdin.end());
    });
    const [all] = await Promise.all([Promise.all(tallies), reading]);
    return addShares(all);
  } catch (error) {
    throw error instanceof BadInput
      ? error
      : new BadInput(error instanceof Error ? error.message.trim() : String(error));
  } finally {
    end();
    process.off("exit", end);
  }
}
