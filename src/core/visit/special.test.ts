/** Which addresses nobody on the public internet has: the IANA special-purpose registries (RFC 6890), from memory. */
import { expect, it } from "vitest";
import { parseAddress } from "./address";
import { isSpecial } from "./special";

const special = (text: string) => isSpecial(parseAddress(text)!);

it.each([
  [
    "this network, private, shared, loopback",
    ["0.1.2.3", "10.0.0.1", "172.31.0.1", "192.168.1.1", "100.64.0.1", "127.0.0.2"],
  ],
  ["link-local, and what clouds tell their machines", ["169.254.169.254", "fe80::1"]],
  ["documentation", ["192.0.2.1", "198.51.100.1", "203.0.113.9", "2001:db8::1", "3fff::1"]],
  [
    "benchmarks, multicast, reserved, everybody",
    ["198.18.0.1", "2001:2::1", "224.0.0.1", "ff02::1", "240.0.0.1", "255.255.255.255"],
  ],
  ["of IPv6 alone", ["::", "::1", "fc00::1", "fd00::1", "fec0::1", "100::1"]],
  ["tunnels, in which a private address may stand", ["2002:7f00:1::", "2001:0:a00:1::1", "64:ff9b:1::a00:1"]],
  ["an IPv4 address in an IPv6 one", ["::ffff:10.0.0.1", "64:ff9b::127.0.0.1"]],
])("nobody's: %s", (_, texts) => expect(texts.filter((text) => !special(text))).toEqual([]));

it("anybody's", () => {
  const texts = ["1.1.1.1", "81.2.69.160", "192.31.196.1", "2001:4860::8888", "::ffff:1.1.1.1", "64:ff9b::101:101"];
  expect(texts.filter(special)).toEqual([]);
});
