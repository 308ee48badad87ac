import { parse, TYPE, type MessageFormatElement } from "@formatjs/icu-messageformat-parser";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { messagesIn } from "../../scripts/lib/messages";
import german from "./de.json";
import portuguese from "./pt.json";

const unwritten: string[] = [];
const said = messagesIn(join(import.meta.dirname, ".."), (where) => unwritten.push(where));
const catalogues: [string, Record<string, string>][] = [
  ["German", german],
  ["Portuguese", portuguese],
];

/** The values that a message asks for, in any of its branches (ICU MessageFormat). */
function valuesOf(elements: readonly MessageFormatElement[]): string[] {
  return elements.flatMap((element) => {
    if (element.type === TYPE.literal || element.type === TYPE.pound || element.type === TYPE.tag) return [];
    if (element.type !== TYPE.plural && element.type !== TYPE.select) return [element.value];
    return [element.value, ...Object.values(element.options).flatMap((option) => valuesOf(option.value))];
  });
}
/** As `t` reads it: a message without choices is no ICU message, and a brace that holds no name is a plain sign. */
const asksOf = (message: string): string[] =>
  /\{\w+,/.test(message)
    ? [...new Set(valuesOf(parse(message, { ignoreTag: true })))].sort()
    : [...new Set(Array.from(message.matchAll(/\{(\w+)\}/g), ([, name]) => name as string))].sort();

describe("message catalogues", () => {
  it("finds every message written out where it is said", () => {
    expect(said.size).toBeGreaterThan(3000);
    expect(unwritten).toEqual([]);
  });

  describe.each(catalogues)("%s", (_, catalogue) => {
    it("has every message of the code, and no other", () => {
      expect([...said.keys()].filter((message) => !Object.hasOwn(catalogue, message))).toEqual([]);
      expect(Object.keys(catalogue).filter((message) => !said.has(message))).toEqual([]);
    });

    it("asks for the values that the English asks for", () => {
      const others = Object.entries(catalogue).filter(
        ([message, words]) => JSON.stringify(asksOf(message)) !== JSON.stringify(asksOf(words)),
      );
      expect(others).toEqual([]);
    });

    it("keeps the spaces at both ends, where sentences are joined", () => {
      const ends = (text: string) => [/^\s*/.exec(text)?.[0], /\s*$/.exec(text)?.[0]];
      const others = Object.entries(catalogue).filter(
        ([message, words]) => ends(message).join("|") !== ends(words).join("|"),
      );
      expect(others).toEqual([]);
    });

    it("says hardly anything in English", () => {
      // Names, codes and words that are the same in both stay: fewer than one in thirty.
      const same = Object.entries(catalogue).filter(
        ([message, words]) => message === words && /[a-z]{3}/.test(message),
      );
      expect(same.length).toBeLessThan(said.size / 30);
    });
  });
});
