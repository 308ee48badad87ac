import { createReadStream } from "node:fs";
import { pipeline } from "node:stream/promises";
import { createGunzip } from "node:zlib";
import { Replay } from "@/core/replay/replay";
import { BadInput, loadPlaces, loadRuleset, readArgs } from "./input";

/** Decides every page view of an access log under the rules and prints what was counted, as JSON. */
export async function replay(args: string[]): Promise<number> {
  const { positionals, values } = readArgs(args, ["RULESET", "ACCESS_LOG"], {
    against: { type: "string" },
    consent: { type: "boolean", default: false },
    places: { type: "string", multiple: true, default: [] },
  });
  const ruleset = loadRuleset(positionals[0] as string);
  const against = values.against === undefined ? undefined : loadRuleset(values.against);
  const lookup = loadPlaces(values.places);
  const run = new Replay(ruleset, {
    consent: values.consent,
    ...(against ? { against } : {}),
    ...(lookup ? { lookup } : {}),
  });
  await readInto(positionals[1] as string, run);
  process.stdout.write(`${JSON.stringify(run.result())}\n`);
  return 0;
}

/** Reads a file, or standard input (`-`), into a replay; a gzipped one (also of several members) is unpacked. */
async function readInto(file: string, replay: Replay): Promise<void> {
  const decoder = new TextDecoder();
  const source = file === "-" ? process.stdin : createReadStream(file, { highWaterMark: 1 << 20 });
  const take = async (chunks: AsyncIterable<Buffer>) => {
    for await (const chunk of chunks) replay.take(decoder.decode(chunk, { stream: true }));
    replay.take(decoder.decode());
    replay.end();
  };
  try {
    const chunks = source[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
    const first = await chunks.next();
    if (first.done) return;
    const whole = async function* () {
      yield first.value;
      for (let next = await chunks.next(); !next.done; next = await chunks.next()) yield next.value;
    };
    const packed = first.value[0] === 0x1f && first.value[1] === 0x8b;
    if (packed) await pipeline(whole(), createGunzip(), take);
    else await take(whole());
  } catch (error) {
    throw new BadInput(`cannot read ${file}: ${(error as NodeJS.ErrnoException).code ?? (error as Error).message}`);
  }
}
