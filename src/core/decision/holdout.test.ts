import { describe, expect, it } from "vitest";
import { ruleset, variant, visit } from "../testing";
import { createEngine } from "./engine";
import { isHeldOut } from "./holdout";

const parts = {
  blockTypes: [{ id: "b", name: "B", fields: [{ id: "t", name: "T", kind: "line" }] }],
  slots: [
    {
      id: "s",
      name: "S",
      variants: [variant("offered", null, { rememberDays: 3 })],
      fallback: { type: "b", fields: { t: "F" }, tokens: {} },
    },
  ],
  popups: [
    {
      id: "p",
      name: "P",
      arms: [{ id: "a", weight: 100, content: { type: "b", fields: { t: "P" }, tokens: {} } }],
      opensAfter: { seconds: 0 },
      size: { width: 300, height: 200 },
    },
  ],
  redirects: [{ id: "r", name: "R", rule: { signal: "page.path", op: "is", value: "/old" }, to: "/new" }],
};
const site = { id: "shop", name: "Shop", zone: "UTC", currency: "EUR", language: "en", origin: "https://shop.example" };
const engine = createEngine(ruleset({ ...parts, site: { ...site, holdout: 10 } }));
const visitors = Array.from({ length: 20_000 }, (_, index) => `v-${index}`);
const out = visitors.find((id) => isHeldOut(10, id)) as string;
const within = visitors.find((id) => !isHeldOut(10, id)) as string;
const of = (visitorId: string | undefined, more: object = {}) =>
  visit({ consent: visitorId !== undefined, ...(visitorId ? { visitorId } : {}), ...more });

describe("the holdout", () => {
  it("holds the share that was said, by the binomial's own spread", () => {
    for (const percent of [0.5, 5, 10, 50]) {
      const held = visitors.filter((id) => isHeldOut(percent, id)).length / visitors.length;
      // Five standard deviations of a share of 20,000.
      expect(Math.abs(held - percent / 100)).toBeLessThan(
        5 * Math.sqrt(((percent / 100) * (1 - percent / 100)) / 20_000),
      );
    }
  });
  it("grows around those who are in it already: whoever is held out by less is by more", () => {
    for (const id of visitors.slice(0, 2000)) if (isHeldOut(5, id)) expect(isHeldOut(20, id)).toBe(true);
  });
  it("leaves nobody out who is not remembered, and nobody where there is none", () => {
    expect(isHeldOut(50, undefined)).toBe(false);
    expect(isHeldOut(undefined, out)).toBe(false);
  });
  it("shows neither variant nor pop-up, keeps nothing of them in memory, and sends on as ever", () => {
    const held = engine.decide(of(out), { holdout: true, trace: true });
    expect(held.slots.s).toMatchObject([{ variant: null, content: { fields: { t: "F" } } }]);
    expect(held.popup).toBeNull();
    expect(JSON.stringify(held.memory)).not.toContain("offered");
    expect(JSON.stringify(engine.decide(of(out)).memory)).toContain("offered");
    expect(held.trace?.slots[0]?.variants[0]?.verdict).toBe("held out");
    const old = { url: "https://shop.example/old" };
    expect(engine.decide(of(out, old), { holdout: true }).redirect?.location).toBe("https://shop.example/new");
  });
  it("is where visitors are served alone: lenses, checks and the analysis see what the rules say", () => {
    expect(engine.decide(of(out)).slots.s?.[0]?.variant).toBe("offered");
    const unasked = engine.decide(visit({ visitorId: out }), { holdout: true });
    expect(unasked.slots.s?.[0]?.variant).toBe("offered");
    const shown = engine.decide(of(within), { holdout: true });
    expect(shown.slots.s?.[0]?.variant).toBe("offered");
    expect(shown.popup?.id).toBe("p");
  });
});
