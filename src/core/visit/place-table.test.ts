import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { inBlock, type Address, type Block } from "./address";
import { openPlaces, packPlaces } from "./place-table";

const widths = { 4: 32, 6: 128 } as const;
/** Blocks that nest and meet: few prefixes, many lengths. */
const blocks = fc.array(
  fc
    .record({
      family: fc.constantFrom<4 | 6>(4, 6),
      head: fc.integer({ min: 0, max: 255 }),
      more: fc.bigInt({ min: 0n, max: (1n << 24n) - 1n }),
      length: fc.integer({ min: 0, max: 128 }),
      country: fc.constantFrom("PT", "ES", "DE", "FR"),
    })
    .map(({ family, head, more, length, country }) => {
      const width = widths[family];
      const short = Math.min(length, width);
      const bits = ((BigInt(head & 3) << 30n) | (more << 6n) | BigInt(head >> 2)) << BigInt(width - 32);
      const cut = BigInt(width - short);
      return { block: { family, bits: (bits >> cut) << cut, length: short } satisfies Block, place: { country } };
    }),
  { maxLength: 40 },
);

/** The longest prefix that holds the address, by looking at all of them; of equal ones the first. */
const plain = (list: readonly { block: Block; place: object }[], address: Address) =>
  list
    .filter(({ block }) => inBlock(address, block))
    .reduce<{ block: Block; place: object } | undefined>(
      (best, one) => (!best || one.block.length > best.block.length ? one : best),
      undefined,
    )?.place;

describe("a table of places", () => {
  it("answers as the longest prefix does, at all edges of blocks and between them", () => {
    fc.assert(
      fc.property(blocks, fc.bigInt({ min: 0n, max: (1n << 128n) - 1n }), (list, anywhere) => {
        const lookup = openPlaces(packPlaces(list));
        const asked: Address[] = list.flatMap(({ block: { family, bits, length } }) => {
          const width = BigInt(widths[family]);
          const end = bits + (1n << (width - BigInt(length))) - 1n;
          return [bits, end, bits - 1n, end + 1n, (bits + end) / 2n]
            .filter((one) => one >= 0n && one < 1n << width)
            .map((one) => ({ family, bits: one }));
        });
        asked.push({ family: 6, bits: anywhere }, { family: 4, bits: anywhere >> 96n });
        for (const address of asked) expect(lookup(address)).toEqual(plain(list, address));
      }),
      { numRuns: 500 },
    );
  });
  it("is read from bytes that begin anywhere, and from nothing else", () => {
    const packed = packPlaces([{ block: { family: 4, bits: 0xc0000200n, length: 24 }, place: { country: "PT" } }]);
    const shifted = new Uint8Array(packed.length + 3);
    shifted.set(packed, 3);
    expect(openPlaces(shifted.subarray(3))({ family: 4, bits: 0xc0000207n })).toEqual({ country: "PT" });
    for (const odd of [
      new Uint8Array(),
      packed.subarray(1),
      packed.subarray(0, -1),
      new TextEncoder().encode("x".repeat(60)),
    ])
      expect(() => openPlaces(odd)).toThrow("no table of places");
  });
});
