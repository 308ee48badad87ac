import fc from "fast-check";
import { expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, variant, visit } from "../testing";
import { movesBetween } from "./moves";

const note = (text: string, tokens = {}) => ({ type: "note", fields: { text }, tokens });
const types = [{ id: "note", name: "Note", fields: [{ id: "text", name: "Text", kind: "text" }] }];
const arms = (...contents: unknown[]) =>
  contents.map((content, index) => ({ id: "abc"[index], weight: 100 / contents.length, content }));
const choice = { signal: "query.choice", op: "isPresent" };

it("says what comparing the whole text of both decisions says", () => {
  const content = fc.constantFrom(
    null,
    note("one"),
    note("two"),
    note("Hello {n}", { n: { signal: "query.choice", fallback: "you" } }),
    note("{n}", { n: { signal: "query.none" } }),
  );
  const slot = fc.record({ fallback: content, first: content, second: content, third: content, on: fc.boolean() });
  const made = ({
    fallback,
    first,
    second,
    third,
    on,
  }: {
    fallback: unknown;
    first: unknown;
    second: unknown;
    third: unknown;
    on: boolean;
  }) =>
    ruleset({
      blockTypes: types,
      slots: [
        {
          id: "s",
          name: "S",
          fallback,
          variants: [
            { ...variant("a", choice), on, arms: arms(first, second) },
            { ...variant("b", { signal: "referrer.url", op: "isPresent" }), arms: arms(third) },
          ],
        },
      ],
    });
  fc.assert(
    fc.property(
      slot,
      slot,
      fc.constantFrom("", "?choice=x", "?choice=y"),
      fc.boolean(),
      fc.constantFrom("v", "w", "x"),
      (left, right, query, referred, visitorId) => {
        const [before, after] = [made(left), made(right)];
        const one = visit({
          url: `https://shop.example/${query}`,
          visitorId,
          ...(referred ? { referrer: "https://else.example/" } : {}),
        });
        const [a, b] = [createEngine(before).decide(one), createEngine(after).decide(one)];
        const moved = JSON.stringify(a.slots) !== JSON.stringify(b.slots);
        expect(movesBetween(before, after)(a, b).map(([place]) => place)).toEqual(moved ? ["s"] : []);
      },
    ),
    { numRuns: 400 },
  );
});
