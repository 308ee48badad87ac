/** MurmurHash3, x86, 32 bit, over bytes. @returns an unsigned 32-bit number. Public domain algorithm by A. Appleby. */
export function murmur3(bytes: Uint8Array, seed = 0): number {
  let h = seed | 0;
  const blocks = bytes.length & ~3;
  const mix = (k: number): number => {
    k = Math.imul(k, 0xcc9e2d51);
    k = (k << 15) | (k >>> 17);
    return Math.imul(k, 0x1b873593);
  };
  const at = (i: number): number => bytes[i] as number;
  for (let i = 0; i < blocks; i += 4) {
    h ^= mix(at(i) | (at(i + 1) << 8) | (at(i + 2) << 16) | (at(i + 3) << 24));
    h = (h << 13) | (h >>> 19);
    h = (Math.imul(h, 5) + 0xe6546b64) | 0;
  }
  let tail = 0;
  for (let i = bytes.length - 1; i >= blocks; i--) tail = (tail << 8) | at(i);
  if (bytes.length > blocks) h ^= mix(tail);
  h ^= bytes.length;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}
