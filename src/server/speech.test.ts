import { describe, expect, it } from "vitest";
import { t } from "@/core/messages/t";
import { languageOf, speakTo } from "./speech";

describe("the language of a request", () => {
  it("is the one chosen, else the first asked for that is spoken (RFC 9110, 12.5.4), else English", () => {
    expect(languageOf("a=b; mirada-language=pt", "de")).toBe("pt");
    expect(languageOf("mirada-language=xx", "fr, de-AT;q=0.8, pt;q=0.9")).toBe("pt");
    expect(languageOf(undefined, "de-CH")).toBe("de");
    expect(languageOf(undefined, "fr")).toBe("en");
    expect(languageOf(undefined, undefined)).toBe("en");
  });

  it("is kept apart between requests that are answered at the same time", async () => {
    const answer = async () => {
      const first = t("Undo");
      await new Promise((done) => setTimeout(done, 5));
      return [first, t("Undo")];
    };
    const of = (tag: string) => speakTo({ "accept-language": tag }, answer);
    expect(await Promise.all([of("de"), of("pt"), of("en")])).toEqual([
      ["Rückgängig", "Rückgängig"],
      ["Anular", "Anular"],
      ["Undo", "Undo"],
    ]);
  });
});
