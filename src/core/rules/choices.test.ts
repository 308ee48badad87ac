import { describe, expect, it } from "vitest";
import { ruleset } from "../testing";
import { searchText, signalChoices } from "./choices";

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
