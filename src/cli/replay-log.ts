/** What `mirada replay` and the processes that it shares a log out to have in common. */
import { createReadStream } from "node:fs";
import { pipeline } from "node:stream/promises";
import { createGunzip } from "node:zlib";
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

/** Reads a file, or standard input (`-`), piece by piece; a gzipped one (also of several members) is unpacked. */
export async function readLog(file: string, take: (piece: Buffer) => void | Promise<void>): Promise<void> {
  const source = file === "-" ? process.stdin : createReadStream(file, { highWaterMark: 1 << 20 });
  const each = async (pieces: AsyncIterable<Buffer>) => {
    for await (const piece of pieces) await take(piece);
  };
  try {
    const pieces = source[Symbol.asyncIterator]() as AsyncIterator<Buffer>;
    const first = await pieces.next();
    if (first.done) return;
    const whole = async function* () {
      yield first.value;
      for (let next = await pieces.next(); !next.done; next = await pieces.next()) yield next.value;
    };
    if (isPacked(first.value)) await pipeline(whole(), createGunzip({ chunkSize: 1 << 20 }), each);
    else await each(whole());
  } catch (error) {
    if (error instanceof BadInput) throw error;
    throw new BadInput(`cannot read ${file}: ${(error as NodeJS.ErrnoException).code ?? (error as Error).message}`);
  }
}
