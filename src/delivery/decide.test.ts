import { afterEach, describe, expect, it, vi } from "vitest";
import { createEngine } from "@/core/decision/engine";
import { ruleset, variant, visit } from "@/core/testing";
import { decideOrFallBack } from "./decide";

const note = (text: string) => ({ type: "n", fields: { text } });
const rules = ruleset({
  blockTypes: [{ id: "n", name: "Note", fields: [{ id: "text", name: "Text", kind: "line" }] }],
  slots: [
    {
      id: "hero",
      name: "Hero",
      variants: [
        variant(
          "pt",
          { signal: "place", op: "isIn", value: [{ country: "PT" }] },
          {
            arms: [{ id: "a", weight: 100, content: note("for Portugal") }],
          },
        ),
      ],
      fallback: note("for everyone"),
    },
    { id: "other", name: "On another page", pages: { signal: "page.path", op: "is", value: "/other" }, variants: [] },
  ],
  offers: [{ id: "ten", name: "Ten", label: "Ten", reward: { percent: 10 } }],
});
/** An engine whose look-up of places fails, as a damaged file might make it. */
const engine = createEngine(rules, {
  lookup: () => {
    throw new Error("the place file is damaged");
  },
});
const cart = { lines: [{ sku: "a", quantity: 2, unitPrice: 1500 }] };

afterEach(() => vi.restoreAllMocks());

describe("a visit that cannot be decided", () => {
  it("gets the page with its fallbacks, the cart at its prices and its memory as it was, and leaves one line", () => {
    const lines = vi.spyOn(console, "error").mockImplementation(() => undefined);
    const asked = visit({
      ip: "192.0.2.1",
      cart,
      consent: true,
      visitorId: "v",
      url: "https://shop.example/a?secret=1",
    });
    const memory = createEngine(rules).decide(asked).memory;
    for (let time = 0; time < 3; time++)
      expect(decideOrFallBack(engine, { ...asked, memory })).toMatchObject({
        redirect: null,
        slots: { hero: [{ variant: null, arm: null, content: { fields: { text: "for everyone" } } }] },
        popup: null,
        cart: { subtotal: 3000, total: 3000, adjustments: [] },
        memory,
      });
    expect(Object.keys(decideOrFallBack(engine, asked).slots)).toEqual(["hero"]);
    expect(lines).toHaveBeenCalledTimes(1);
    const line = JSON.parse(String(lines.mock.calls[0]?.[0])) as Record<string, string>;
    expect(line).toMatchObject({ site: "shop", path: "/a", error: "the place file is damaged" });
    expect(JSON.stringify(line)).not.toMatch(/192\.0\.2\.1|secret/);
  });
  it("is decided as ever where nothing fails", () => {
    expect(decideOrFallBack(engine, visit({ place: { country: "PT" }, cart }))).toMatchObject({
      slots: { hero: [{ variant: "pt" }] },
      cart: { total: 2700 },
    });
  });
});
