import ipaddr from "ipaddr.js";
import type { Address } from "./address";

/**
 * The ranges of the IANA special-purpose registries (RFC 6890) that are answered from the public internet all the same:
 * everything else that has a name there is private, shared, reserved, a tunnel's or nobody's.
 */
const open: ReadonlySet<string> = new Set(["unicast", "as112", "as112v6", "amt"]);

/** The groups of an address, from the left, each of so many bits. */
const groups = (bits: bigint, count: number, width: number): number[] =>
  Array.from({ length: count }, (_, at) => Number(BigInt.asUintN(width, bits >> BigInt((count - 1 - at) * width))));

/** 64:ff9b::/96, in which networks without IPv4 write IPv4 addresses (RFC 6052, section 2.1). */
const translated = 0x64ff9b0000000000000000n;

/** Whether an address is no public one: no country has it, and nobody on the public internet answers there. */
export function isSpecial({ family, bits }: Address): boolean {
  if (family === 4) return !open.has(new ipaddr.IPv4(groups(bits, 4, 8)).range());
  if (bits >> 32n === translated) return isSpecial({ family: 4, bits: BigInt.asUintN(32, bits) });
  return !open.has(new ipaddr.IPv6(groups(bits, 8, 16)).range());
}
