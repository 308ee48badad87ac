import { describe, expect, it } from "vitest";
import { ruleset, truth, visit } from "../testing";
import { checkRule } from "../rules/check";
import { closedValues, opChoices, searchText, signalChoices, whyUnknown } from "./choices";
import { operators } from "../formats/operators";

describe("signals", () => {
  const choices = signalChoices(ruleset({}));
  const found = (typed: string) =>
    choices
      .filter((choice) => searchText(choice).toLowerCase().includes(typed.toLowerCase()))
      .map(({ signal }) => signal);

  // Names of the trade at large (common practice).
  it.each([
    ["utm_source", "campaign.source"],
    ["utm_campaign", "campaign.name"],
    ["keyword", "campaign.term"],
    ["country", "place"],
    ["weekday", "time"],
    ["mobile", "device.kind"],
    ["basket", "cart.subtotal"],
    ["locale", "language"],
    ["new visitor", "history.returning"],
    ["query string", "query."],
  ])("%s finds %s", (typed, signal) => expect(found(typed)).toContain(signal));

  it("are each found by their own words, too", () => {
    for (const { signal, label } of choices) expect(found(label)).toContain(signal);
  });
});

describe("operators", () => {
  const names = ruleset({});
  const signals = signalChoices(names).map(({ signal }) => (signal.endsWith(".") ? `${signal}x` : signal));
  it("fit their signal: what has few, known values is named, and no two read alike", () => {
    for (const signal of signals) {
      const ops = opChoices(signal, names);
      const words = ops.map((op) => operators[op].words);
      expect(new Set(words).size, `${signal}: ${words.join(", ")}`).toBe(words.length);
      if (closedValues(signal)) expect(ops).not.toContain("startsWith");
      for (const op of ops)
        expect(checkRule({ signal, op, value: undefined }, names).filter(({ path }) => path === "/op")).toEqual([]);
    }
  });
  it("say why a signal may not be known, just where it may be (docs/engine.md, section 2)", () => {
    for (const signal of signals.filter((one) => !/^(time|ip|place)$/.test(one)))
      expect([signal, whyUnknown(signal) !== undefined]).toEqual([
        signal,
        truth({ signal, op: "isPresent" }, visit({ consent: false })) === "unknown",
      ]);
  });
});
