/** An IP address as a number, with its family. An IPv4-mapped IPv6 address is its IPv4 address. */
import { t } from "../messages/t";
export interface Address {
  family: 4 | 6;
  bits: bigint;
}
/** A block of addresses: the first `length` bits of `bits` count. */
export interface Block extends Address {
  length: number;
}

const mapped = 0xffffn;

function parseV4(text: string): bigint | undefined {
  const parts = text.split(".");
  if (parts.length !== 4) return undefined;
  let bits = 0n;
  for (const part of parts) {
    if (!/^(0|[1-9]\d{0,2})$/.test(part) || Number(part) > 255) return undefined;
    bits = (bits << 8n) | BigInt(part);
  }
  return bits;
}

function parseV6(text: string): bigint | undefined {
  const halves = text.split("::");
  if (halves.length > 2) return undefined;
  const groups = (half: string): bigint[] | undefined => {
    if (half === "") return [];
    const out: bigint[] = [];
    const parts = half.split(":");
    for (const [index, part] of parts.entries()) {
      if (part.includes(".") && index === parts.length - 1) {
        const v4 = parseV4(part);
        if (v4 === undefined) return undefined;
        out.push(v4 >> 16n, v4 & 0xffffn);
      } else if (/^[0-9a-f]{1,4}$/i.test(part)) out.push(BigInt(`0x${part}`));
      else return undefined;
    }
    return out;
  };
  const head = groups(halves[0] as string);
  const tail = halves.length === 2 ? groups(halves[1] as string) : [];
  if (!head || !tail) return undefined;
  const missing = 8 - head.length - tail.length;
  if (halves.length === 2 ? missing < 1 : missing !== 0) return undefined;
  if (halves.length === 2 && (halves[0] as string).includes(".")) return undefined;
  return [...head, ...new Array<bigint>(missing).fill(0n), ...tail].reduce((bits, group) => (bits << 16n) | group, 0n);
}

/** Reads an IPv4 address in dotted decimal or an IPv6 address (RFC 4291); undefined if it is neither. */
export function parseAddress(text: string): Address | undefined {
  if (text.length > 45) return undefined;
  const v4 = parseV4(text);
  if (v4 !== undefined) return { family: 4, bits: v4 };
  const v6 = text.includes(":") ? parseV6(text) : undefined;
  if (v6 === undefined) return undefined;
  return v6 >> 32n === mapped ? { family: 4, bits: v6 & 0xffffffffn } : { family: 6, bits: v6 };
}

/** Reads a CIDR block or a single address. A problem in words if it is neither or has bits beyond its prefix. */
export function parseBlock(text: string): Block | { problem: string } {
  const [head, tail, more] = text.split("/");
  const address = parseAddress(head as string);
  if (!address || more !== undefined)
    return { problem: t("must be an address or a block of addresses such as 192.0.2.0/24 or 2001:db8::/32") };
  const width = address.family === 4 ? 32 : 128;
  if (tail === undefined) return { ...address, length: width };
  const written = (head as string).includes(":") ? 128 : 32;
  const length = /^\d{1,3}$/.test(tail) ? Number(tail) - (written - width) : -1;
  if (length < 0 || length > width)
    return { problem: t("has a prefix length that must be from 0 to {written}", { written }) };
  if ((address.bits & ((1n << BigInt(width - length)) - 1n)) !== 0n)
    return { problem: t("has bits set beyond its prefix of {tail}", { tail }) };
  return { ...address, length };
}

/** Whether an address lies in a block. */
export const inBlock = (address: Address, block: Block): boolean => {
  if (address.family !== block.family) return false;
  const shift = BigInt((block.family === 4 ? 32 : 128) - block.length);
  return address.bits >> shift === block.bits >> shift;
};
