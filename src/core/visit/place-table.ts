/**
 * Places by address, in a form that is ready as soon as its bytes are there: the first address of each range of addresses, in order,
 * and which place it is. What lies within several blocks is of the longest prefix.
 *
 * Bytes (little endian): "MIRADAP1", then as 32 bits each the numbers of IPv6 and IPv4 ranges, the length of the JSON and 0; the first
 * addresses of IPv6 ranges (two 64 bits each, high then low) and of IPv4 ranges (32 bits), the places of both (32 bits each: 0 none,
 * else one more than the index), the places as a JSON list.
 */
import type { Place } from "../formats/visit";
import type { Address, Block } from "./address";
import type { PlaceLookup } from "./places";

const magic = "MIRADAP1";
const headBytes = 24;
const half = 64n;
const low = (1n << half) - 1n;

interface Range {
  start: bigint;
  place: number;
}

/** Blocks as ranges that do not overlap. @param blocks of one family; of equal ones the first counts */
function rangesOf(blocks: readonly { block: Block; place: number }[], width: number): Range[] {
  const sorted = [...blocks].sort(({ block: a }, { block: b }) =>
    a.bits === b.bits ? a.length - b.length : a.bits < b.bits ? -1 : 1,
  );
  const out: Range[] = [];
  const last = (1n << BigInt(width)) - 1n;
  const emit = (start: bigint, place: number) => {
    if (out.at(-1)?.start === start) out.pop();
    if ((out.at(-1)?.place ?? 0) !== place) out.push({ start, place });
  };
  /** The blocks around where we are, the innermost last. */
  const around: { end: bigint; place: number }[] = [];
  const leave = () => {
    const { end } = around.pop() as { end: bigint };
    if (end < last) emit(end + 1n, around.at(-1)?.place ?? 0);
  };
  let before: Block | undefined;
  for (const { block, place } of sorted) {
    if (before && before.bits === block.bits && before.length === block.length) continue;
    before = block;
    while (around.length > 0 && (around.at(-1) as { end: bigint }).end < block.bits) leave();
    emit(block.bits, place);
    around.push({ end: block.bits + (1n << BigInt(width - block.length)) - 1n, place });
  }
  while (around.length > 0) leave();
  return out;
}

/** Puts blocks with their places into bytes. */
export function packPlaces(blocks: readonly { block: Block; place: Place }[]): Uint8Array {
  const places: Place[] = [];
  const numbers = new Map<string, number>();
  const numbered = blocks.map(({ block, place }) => {
    const name = JSON.stringify(place);
    let number = numbers.get(name);
    if (number === undefined) numbers.set(name, (number = places.push(place)));
    return { block, place: number };
  });
  const v6 = rangesOf(
    numbered.filter(({ block }) => block.family === 6),
    128,
  );
  const v4 = rangesOf(
    numbered.filter(({ block }) => block.family === 4),
    32,
  );
  const json = new TextEncoder().encode(JSON.stringify(places));
  const bytes = new Uint8Array(headBytes + v6.length * 20 + v4.length * 8 + json.length);
  bytes.set(new TextEncoder().encode(magic));
  const view = new DataView(bytes.buffer);
  let at = magic.length;
  const put = (value: number) => {
    view.setUint32(at, value, true);
    at += 4;
  };
  for (const value of [v6.length, v4.length, json.length, 0]) put(value);
  for (const { start } of v6)
    for (const part of [start >> half, start & low]) {
      view.setBigUint64(at, part, true);
      at += 8;
    }
  for (const { start } of v4) put(Number(start));
  for (const { place } of [...v6, ...v4]) put(place);
  bytes.set(json, at);
  return bytes;
}

/** The last of so many that is not after what is looked for, by halving; -1: none. */
function lastUpTo(count: number, isUpTo: (index: number) => boolean): number {
  let [from, to] = [0, count];
  while (from < to) {
    const middle = (from + to) >> 1;
    if (isUpTo(middle)) from = middle + 1;
    else to = middle;
  }
  return from - 1;
}

/** Reads bytes of `packPlaces`. @throws RangeError if they are none */
export function openPlaces(packed: Uint8Array): PlaceLookup {
  // In bytes of its own, since what a database gives begins anywhere.
  const bytes = Uint8Array.from(packed);
  const head = new DataView(bytes.buffer);
  const [n6 = 0, n4 = 0, jsonLength = 0] =
    bytes.length < headBytes ? [] : [8, 12, 16].map((at) => head.getUint32(at, true));
  const isOurs = new TextDecoder().decode(bytes.subarray(0, magic.length)) === magic;
  if (!isOurs || bytes.length !== headBytes + n6 * 20 + n4 * 8 + jsonLength)
    throw new RangeError("this is no table of places");
  const starts6 = new BigUint64Array(bytes.buffer, headBytes, n6 * 2);
  const starts4 = new Uint32Array(bytes.buffer, headBytes + n6 * 16, n4);
  const of = new Uint32Array(bytes.buffer, headBytes + n6 * 16 + n4 * 4, n6 + n4);
  const places = JSON.parse(new TextDecoder().decode(bytes.subarray(bytes.length - jsonLength))) as Place[];
  const indexOf = ({ family, bits }: Address): number => {
    if (family === 4) {
      const wanted = Number(bits);
      const found = lastUpTo(n4, (index) => (starts4[index] as number) <= wanted);
      return found < 0 ? -1 : n6 + found;
    }
    const [high, rest] = [bits >> half, bits & low];
    return lastUpTo(n6, (index) => {
      const start = starts6[index * 2] as bigint;
      return start < high || (start === high && (starts6[index * 2 + 1] as bigint) <= rest);
    });
  };
  return (address) => {
    const index = indexOf(address);
    return index < 0 ? undefined : places[(of[index] as number) - 1];
  };
}
