import { describe, expect, it } from "vitest";
import { ruleset, variant } from "../testing";
import { notCarried } from "./carried";

const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const rules = ruleset({
  blockTypes: [{ id: "note", name: "Note", fields: [{ id: "text", name: "Text", kind: "text" }] }],
  audiences: [{ id: "again", name: "Again", rule: when("history.returning", "isTrue") }],
  slots: [
    {
      id: "s",
      name: "S",
      variants: [
        variant("cart", when("cart.subtotal", "gt", "10")),
        variant("pt", { all: [when("language", "prefers", ["pt"]), when("place", "isIn", [{ country: "PT" }])] }),
        variant("own", when("time", "within", { zone: "visitor", days: ["MO"] })),
        variant("member", { none: [when("cookie.member", "is", "yes")] }),
        {
          ...variant("hello"),
          arms: [
            {
              id: "a",
              weight: 100,
              content: { type: "note", fields: { text: "Hi {n}" }, tokens: { n: { signal: "cart.count" } } },
            },
          ],
        },
      ],
    },
  ],
  popups: [
    {
      id: "p",
      name: "P",
      arms: [{ id: "a", weight: 100, content: null }],
      opensAfter: { seconds: 1 },
      size: { width: 1, height: 1 },
      cap: { times: 1, per: "day" },
    },
  ],
});

describe("what a log cannot tell", () => {
  const told = (consent: boolean) =>
    Object.fromEntries(
      notCarried([rules], consent).map((item) => [item.what, [item.judged, item.owners.map((owner) => owner.name)]]),
    );
  it("is named with who asks for it, and how it is judged (docs/engine.md, section 2)", () => {
    expect(told(false)).toEqual({
      cart: ["unknown", ["S, cart", "S, hello"]],
      language: ["absent", ["S, pt"]],
      "visitor's clock": ["unknown", ["S, own"]],
      cookies: ["absent", ["S, member"]],
      consent: ["unknown", ["Audience Again", "Pop-up P"]],
    });
  });
  it("leaves out the past where everybody is judged as though they had agreed", () => {
    expect(told(true)).not.toHaveProperty("consent");
    expect(notCarried([ruleset()], false)).toEqual([]);
  });
});
