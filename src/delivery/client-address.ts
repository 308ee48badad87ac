import { inBlock, parseAddress, parseBlock, type Block } from "@/core/visit/address";

/** How many addresses of a forwarding header are looked at. */
const most = 50;

/** Blocks made ready; what is no block is left out. */
export const readBlocks = (texts: readonly string[]): Block[] =>
  texts.map((text) => parseBlock(text)).filter((block): block is Block => !("problem" in block));

/**
 * The address of a visitor. The peer of the connection, unless that is a trusted proxy: then the last address in its
 * X-Forwarded-For that is no trusted proxy itself. What stands left of that was written by whoever called, and counts for nothing.
 */
export function clientAddress(
  peer: string | undefined,
  forwarded: string | undefined,
  trusted: readonly Block[],
): string | undefined {
  const isTrusted = (text: string): boolean => {
    const address = parseAddress(text);
    return address !== undefined && trusted.some((block) => inBlock(address, block));
  };
  if (!peer || !forwarded || !isTrusted(peer)) return peer;
  const hops = forwarded
    .slice(-most * 48)
    .split(",")
    .slice(-most);
  for (const hop of hops.reverse()) {
    // With a port: 192.0.2.1:8080 or [2001:db8::1]:8080.
    const text = hop
      .trim()
      .replace(/^\[(.*)\](:\d+)?$/, "$1")
      .replace(/^(\d+\.\d+\.\d+\.\d+):\d+$/, "$1");
    if (!parseAddress(text)) return undefined;
    if (!isTrusted(text)) return text;
  }
  return peer;
}
