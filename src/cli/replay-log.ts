/** Reading an access log into a replay: the whole of it, or a share of its visitors. */
import { createReadStream } from "node:fs";
import { pipeline } from "node:stream/promises";
import { createGunzip } from "node:zlib";
import type { Replay } from "@/core/replay/replay";
import { BadInput, loadPlaces, loadRuleset, readArgs } from "./input";

/** The arguments of `mirada replay`, with what they name read. */
export function readReplay(args: string[]) {
  const { positionals, values } = readArgs(args, ["RULESET", "ACCESS_LOG"], {
    against: { type: "string" },
    consent: { type: "boolean", default: false },
    places: { type: "string", multiple: true, default: [] },
  });
  const ruleset = loadRuleset(positionals[0] as string);
  const against = values.against === undefined ? undefined : loadRuleset(values.against);
  const lookup = loadPlaces(values.places);
  return {
    ruleset,
    file: positionals[1] as string,
    options: { consent: values.consent, ...(against ? { against } : {}), ...(lookup ? { lookup } : {}) },
  };
}

/** A gzipped file begins with these two bytes (RFC 1952). */
export const isPacked = (bytes: Uint8Array): boolean => bytes[0] === 0x1f && bytes[1] === 0x8b;

/** Reads a file, or standard input (`-`), into a replay; a gzipped one (also of several members) is unpacked. */
export async function readInto(file: string, replay: Replay): Promise<void> {
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
    if (isPacked(first.value)) await pipeline(whole(), createGunzip(), take);
    else await take(whole());
  } catch (error) {
    throw new BadInput(`cannot read ${file}: ${(error as NodeJS.ErrnoException).code ?? (error as Error).message}`);
  }
}
