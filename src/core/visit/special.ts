import { inBlock, parseBlock, type Address, type Block } from "./address";

/**
 * Addresses that are no public ones: private, shared, loopback, link-local, documentation, benchmark, multicast, reserved
 * (IANA special-purpose registries, RFC 6890). Country data answers nonsense for some of them.
 */
const special = [
  "0.0.0.0/8",
  "10.0.0.0/8",
  "100.64.0.0/10",
  "127.0.0.0/8",
  "169.254.0.0/16",
  "172.16.0.0/12",
  "192.0.0.0/24",
  "192.0.2.0/24",
  "192.168.0.0/16",
  "198.18.0.0/15",
  "198.51.100.0/24",
  "203.0.113.0/24",
  "224.0.0.0/4",
  "240.0.0.0/4",
  "::/127",
  "64:ff9b:1::/48",
  "100::/64",
  "2001:db8::/32",
  "3fff::/20",
  "fc00::/7",
  "fe80::/10",
  "ff00::/8",
].map((text) => parseBlock(text) as Block);

/** Whether an address is no public one: no country has it, and nobody on the public internet answers there. */
export const isSpecial = (address: Address): boolean => special.some((block) => inBlock(address, block));
