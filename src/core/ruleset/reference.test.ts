import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";
import { operators, ops, opsOf, positiveOf } from "../formats/operators";
import { fixedSignals, namedSignals, traitsOf } from "../visit/signals";
import { signalReference } from "./reference";

describe("the tables of signals and operators", () => {
  it("are told in docs/signals.md as they are: npm run reference", () => {
    expect(readFileSync("docs/signals.md", "utf8")).toBe(signalReference());
  });
  it("deny only operators with a meaning of their own, for the same kinds and values", () => {
    for (const op of ops) {
      const { denies } = operators[op];
      if (denies === undefined) continue;
      const positive = positiveOf(op);
      expect([op, positive]).toEqual([op, { op: denies, denied: true }]);
      expect([op, operators[positive.op].denies]).toEqual([op, undefined]);
      expect(operators[op]).toMatchObject({ kinds: operators[positive.op].kinds, value: operators[positive.op].value });
    }
  });
  it("have for each kind of signal something to ask", () => {
    for (const { kind } of Object.values(fixedSignals)) expect([kind, opsOf(kind).length > 1]).toEqual([kind, true]);
  });
  it("tell of a name of its own what they tell of its kind", () => {
    for (const [prefix, entry] of Object.entries(namedSignals)) {
      expect(traitsOf(`${prefix}x`)).toBe(entry);
      expect(traitsOf(prefix)).toBeUndefined();
    }
  });
});
