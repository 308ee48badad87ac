import { spawn } from "node:child_process";
import { openSync, readSync, closeSync, fstatSync } from "node:fs";
import { availableParallelism } from "node:os";
import { buffer, text } from "node:stream/consumers";
import { fileURLToPath } from "node:url";
import { deserialize } from "node:v8";
import { Replay } from "@/core/replay/replay";
import { addShares, resultOf, type Tally } from "@/core/replay/tally";
import { BadInput } from "./input";
import { isPacked, readInto, readReplay } from "./replay-log";

/** Another process takes about as long to start as one core takes for so much of a log, in bytes. */
const worthAProcess = 48 << 20;
/** About how much longer a packed log is than its file. */
const packing = 10;
const mostProcesses = 8;

/** Decides every page view of an access log under the rules and prints what was counted, as JSON. */
export async function replay(args: string[]): Promise<number> {
  const { ruleset, file, options } = readReplay(args);
  const of = processesFor(file);
  let tally: Tally;
  if (of > 1) tally = addShares(await inShares(args, of));
  else {
    const run = new Replay(ruleset, options);
    await readInto(file, run);
    tally = run.tally();
  }
  process.stdout.write(`${JSON.stringify(resultOf(tally, ruleset, options.against !== undefined))}\n`);
  return 0;
}

/** Over how many processes a log is shared out: one for each core where it is long enough. */
function processesFor(file: string): number {
  const wanted = Number(process.env.MIRADA_PROCESSES);
  if (file === "-") return 1;
  if (wanted >= 1) return Math.min(mostProcesses, Math.floor(wanted));
  try {
    const opened = openSync(file, "r");
    try {
      const head = new Uint8Array(2);
      readSync(opened, head);
      const bytes = fstatSync(opened).size * (isPacked(head) ? packing : 1);
      return Math.max(1, Math.min(mostProcesses, availableParallelism(), Math.floor(bytes / worthAProcess)));
    } finally {
      closeSync(opened);
    }
  } catch {
    // What is wrong with the file is said where it is read.
    return 1;
  }
}

/** Each process reads the whole log and decides its share of the visitors. @throws BadInput with what the first to fail said */
async function inShares(args: string[], of: number): Promise<Tally[]> {
  const program = fileURLToPath(new URL("./replay-share.ts", import.meta.url));
  const children = Array.from({ length: of }, (_, number) =>
    spawn(process.execPath, [...process.execArgv, program, String(number), String(of), ...args], {
      stdio: ["ignore", "pipe", "pipe"],
    }),
  );
  const end = () => children.forEach((child) => child.kill());
  process.once("exit", end);
  try {
    return await Promise.all(
      children.map(async (child) => {
        const ended = new Promise<number | null>((resolve, reject) => {
          child.on("error", reject);
          child.on("close", resolve);
        });
        const [out, said, code] = await Promise.all([buffer(child.stdout), text(child.stderr), ended]);
        if (code !== 0) throw new BadInput(said.trim().replace(/^mirada: /, "") || `a process ended with ${code}`);
        return deserialize(out) as Tally;
      }),
    );
  } finally {
    end();
    process.off("exit", end);
  }
}
