/** Files of a log, as they come: plain or packed, in one part or several, cut anywhere, cut short, damaged. */
import fc from "fast-check";
import { gzipSync } from "node:zlib";
import { describe, expect, it } from "vitest";
import { LineShares, type Lines } from "./shares";
import { LogUnpacker } from "./unpack";

const encoder = new TextEncoder();
const decoder = new TextDecoder();
const address = (line: string) => line.split(" ")[0];
const log = (lines: number) =>
  Array.from({ length: lines }, (_, index) => `192.0.2.${index % 23} - - "GET /${index * 7919} é"`);

/** Reads files, each in pieces of a length. @returns what each share got, with the numbers, and what was said of damage */
function read(files: Uint8Array[], piece: number, of = 1) {
  const unpacker = new LogUnpacker(of);
  const shares = Array.from({ length: of }, () => ({ text: "", numbers: [] as number[] }));
  const damage: string[] = [];
  const take = (parts: Lines[]) =>
    parts.forEach(({ bytes, numbers }, share) => {
      const own = shares[share];
      if (own) own.text += decoder.decode(bytes);
      own?.numbers.push(...numbers);
    });
  for (const file of files)
    for (let from = 0; from === 0 || from < file.length; from += piece) {
      const parts = unpacker.parts(file.subarray(from, from + piece), from === 0, from + piece >= file.length);
      let isDamaged = false;
      for (const found of parts) {
        take(found.shares);
        if (found.damage === undefined) continue;
        damage.push(found.damage);
        isDamaged = true;
      }
      if (isDamaged) break;
    }
  return { shares, damage, text: shares[0]?.text };
}
const pack = (...parts: string[]) => Uint8Array.from(Buffer.concat(parts.map((part) => gzipSync(part))));

describe("a log's files", () => {
  it("come out as they were written, plain or packed, wherever they are cut", () => {
    const text = `${log(300).join("\n")}\n`;
    const half = Math.floor(text.length / 2);
    const named = Buffer.concat([gzipSync(text.slice(0, half)), Buffer.from(gzipSync(text.slice(half)))]);
    for (const file of [
      encoder.encode(text),
      pack(text),
      pack(text.slice(0, half), "", text.slice(half)),
      Uint8Array.from(named),
    ])
      for (const piece of [2, 7, 64, 4096, 1 << 20]) expect(read([file], piece)).toMatchObject({ text, damage: [] });
  });
  it("that unpack to a thousand times as much are read in parts of a bounded size, and a line without an end is cut", () => {
    const line = `${log(1)[0]}\n`;
    const many = pack(line.repeat(2_000_000));
    const endless = pack(`${line}${"0".repeat(100_000_000)}\n${line}`);
    for (const [file, lines, most] of [
      [many, 2_000_000, 24_000_000],
      [endless, 3, 200_000],
    ] as const) {
      expect(file.length).toBeLessThan(400_000);
      let [found, longest] = [0, 0];
      for (const { shares, damage } of new LogUnpacker(2).parts(file, true, true)) {
        expect(damage).toBeUndefined();
        const size = shares.reduce((sum, share) => sum + share.bytes.length, 0);
        longest = Math.max(longest, size);
        found += shares.reduce((sum, share) => sum + share.numbers.length, 0);
      }
      expect(found).toBe(lines);
      expect(longest).toBeLessThan(most);
    }
  });
  it("go on one after the other, a last line without a line break too", () => {
    const [one, two] = [log(3).join("\n"), log(2).join("\r\n")];
    const { shares, damage } = read([encoder.encode(one), pack(two), new Uint8Array(0)], 5);
    expect(shares[0]).toEqual({ text: `${one}\n${two}\n`, numbers: [1, 2, 3, 4, 5] });
    expect(damage).toEqual([]);
  });
  it("that are damaged or cut short are told, whichever of their parts it is; the lines before count, and the next file too", () => {
    const parts = [log(400).join("\n") + "\n", log(500).join("\n") + "\n", log(600).join("\n") + "\n"];
    const sizes = parts.map((part) => gzipSync(part).length);
    const whole = pack(...parts);
    const from = (part: number) => sizes.slice(0, part).reduce((sum, size) => sum + size, 0);
    const next = `${log(2).join("\n")}\n`;
    for (const part of [0, 1, 2])
      for (const at of [0.3, 0.6, 0.95].map((share) => from(part) + Math.floor((sizes[part] ?? 0) * share)))
        for (const piece of [97, 1 << 20]) {
          const broken = whole.slice();
          broken[at] = (broken[at] ?? 0) ^ 0x10;
          const found = read([broken, encoder.encode(next)], piece);
          expect([part, at, found.damage.length]).toEqual([part, at, 1]);
          if (piece === 97 && part > 0) expect(found.text?.startsWith(parts[0] ?? "-")).toBe(true);
          expect(found.text?.endsWith(next)).toBe(true);
        }
    for (const cut of [1, 4, 8, 9, 200]) {
      const found = read([whole.subarray(0, -cut)], 97);
      expect([cut, found.damage.length]).toEqual([cut, 1]);
      expect(found.text?.startsWith((parts[0] ?? "-") + parts[1])).toBe(true);
    }
  });
});

describe("sharing lines out", () => {
  it("gives all lines of a visitor to one, in their order, and every line to somebody", () => {
    const line = fc
      .tuple(fc.integer({ min: 0, max: 9 }), fc.string({ unit: fc.constantFrom(..."ab é\r"), maxLength: 8 }))
      .map(([ip, rest]) => `192.0.2.${ip} ${rest}`);
    fc.assert(
      fc.property(
        fc.array(line, { minLength: 1, maxLength: 40 }),
        fc.integer({ min: 1, max: 5 }),
        fc.integer({ min: 1, max: 60 }),
        (lines, of, piece) => {
          const { shares } = read([encoder.encode(lines.join("\n"))], piece, of);
          const owners = new Map<string | undefined, number>();
          const met: [number, string][] = [];
          shares.forEach(({ text, numbers }, share) => {
            const own = text.split("\n").slice(0, -1);
            expect(own.length).toBe(numbers.length);
            expect(numbers).toEqual([...numbers].sort((a, b) => a - b));
            own.forEach((item, index) => {
              met.push([numbers[index] as number, item]);
              expect(owners.get(address(item)) ?? share).toBe(share);
              owners.set(address(item), share);
            });
          });
          expect(met.sort(([a], [b]) => a - b)).toEqual(lines.map((item, index) => [index + 1, item]));
        },
      ),
    );
  });
  it("is fair: of many visitors each gets about as many", () => {
    const shares = new LineShares(4);
    const visitors = Array.from(
      { length: 8000 },
      (_, index) => `198.51.${index % 80}.${Math.floor(index / 80)} x\n`,
    ).join("");
    const counts = shares.take(encoder.encode(visitors)).map(({ numbers }) => numbers.length);
    for (const count of counts) expect(Math.abs(count - 2000)).toBeLessThan(250);
  });
});
