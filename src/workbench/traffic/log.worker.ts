/** Unpacks a log, if it is packed, and shares its lines out: on a thread of its own, while others decide what it found before. */
import { Gunzip } from "fflate";
import { LineShares, type Lines } from "@/core/replay/shares";

export type ToLog =
  | { do: "start"; of: number }
  /** A piece of a file; the last one ends it. */
  | { do: "piece"; bytes: Uint8Array<ArrayBuffer>; first: boolean; last: boolean };
/** The lines for each share, how many lines there were so far, and what is wrong with the file from here on. */
export interface FromLog {
  shares: Lines[];
  damage?: string;
}

let shares = new LineShares(1);
let found: Lines[][] = [];
let unpack: Gunzip | undefined;
/** Bytes unpacked so far, and how many more parts the file has that were packed by themselves. */
let unpacked = 0;
let members = 0;

function read(bytes: Uint8Array<ArrayBuffer>, first: boolean, last: boolean): string | undefined {
  if (first) {
    unpacked = 0;
    members = 0;
    unpack = undefined;
    if (bytes[0] === 0x1f && bytes[1] === 0x8b) {
      unpack = new Gunzip((part) => {
        unpacked += part.length;
        found.push(shares.take(part));
      });
      unpack.onmember = () => (members += 1);
    }
  }
  if (!unpack) {
    found.push(shares.take(bytes));
    return undefined;
  }
  try {
    unpack.push(bytes, last);
  } catch (error) {
    return `It cannot be unpacked any further: ${(error as Error).message}. What was read up to there counts.`;
  }
  // A file of one member ends with its length (RFC 1952): damage within it need not show before.
  const said = new DataView(bytes.buffer, bytes.byteOffset).getUint32(Math.max(0, bytes.byteLength - 4), true);
  return last && members === 0 && bytes.length >= 4 && said !== unpacked % 2 ** 32
    ? "It is damaged: it unpacks to another length than it says. What could be read counts."
    : undefined;
}

/** Several pieces' lines of one share as one. */
function joined(parts: Lines[]): Lines {
  if (parts.length === 1) return parts[0] as Lines;
  const bytes = new Uint8Array(parts.reduce((sum, part) => sum + part.bytes.length, 0));
  const numbers = new Uint32Array(parts.reduce((sum, part) => sum + part.numbers.length, 0));
  let [byte, line] = [0, 0];
  for (const part of parts) {
    bytes.set(part.bytes, byte);
    numbers.set(part.numbers, line);
    byte += part.bytes.length;
    line += part.numbers.length;
  }
  return { bytes, numbers };
}

addEventListener("message", ({ data }: MessageEvent<ToLog>) => {
  if (data.do === "start") {
    shares = new LineShares(data.of);
    return;
  }
  found = [];
  const damage = read(data.bytes, data.first, data.last);
  if (data.last || damage !== undefined) found.push(shares.end());
  const said: FromLog = {
    shares: Array.from({ length: shares.of }, (_, share) => joined(found.flatMap((part) => part[share] ?? []))),
    ...(damage === undefined ? {} : { damage }),
  };
  postMessage(said, { transfer: said.shares.flatMap((part) => [part.bytes.buffer, part.numbers.buffer]) });
});
