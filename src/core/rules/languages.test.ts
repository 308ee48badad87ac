import { describe, expect, it } from "vitest";
import { truth, visit } from "../testing";
import { isTypedTag } from "../visit/language";
import { bestLanguages, languagesIn } from "./languages";

describe("the best of a slot's languages", () => {
  const italian = bestLanguages(["it"], ["it", "fr", "en"]);
  const french = bestLanguages(["fr"], ["it", "fr", "en"]);
  const holds = (rule: typeof italian, acceptLanguage: string) => truth(rule, visit({ acceptLanguage })) === "true";
  it.each([
    ["it,fr;q=0.8", true, false],
    ["fr,it;q=0.8", false, true],
    ["de,it;q=0.8", true, false],
    ["en,it;q=0.8,fr;q=0.5", false, false],
    ["de,fr;q=0.9,it;q=0.2", true, true],
    ["de", false, false],
  ])("of %s is Italian: %s, French: %s", (header, it, fr) => {
    expect([holds(italian, header), holds(french, header)]).toEqual([it, fr]);
  });
  it("is any of them where there is no other", () => {
    expect(bestLanguages(["it"], ["it"])).toEqual({ signal: "language", op: "accepts", value: ["it"] });
    expect(languagesIn([italian, null, { audience: "x" }])).toEqual(["it", "fr", "en"]);
  });
});

describe("what is typed as a language", () => {
  it("is a tag, or else is looked for among names: “italian” is no tag that a browser sends", () => {
    expect(["it", "pt-PT", "zh-Hant-TW", "nds", "*"].map(isTypedTag)).toEqual([true, true, true, true, true]);
    expect(["Italian", "Port", "p", "", "pt_PT", "it "].map(isTypedTag)).toEqual(Array(6).fill(false));
  });
});
