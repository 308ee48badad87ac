import { readFileSync } from "node:fs";
import { Ajv2020 } from "ajv/dist/2020";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, site, variant, visit } from "../testing";
import { jsonSchemas } from "./json-schema";

const schemas = jsonSchemas();
const ajv = new Ajv2020({ strict: false });

describe("JSON Schemas", () => {
  it.each(["visit", "ruleset", "decision"] as const)("%s is shipped as it is generated", (name) => {
    expect(JSON.parse(readFileSync(`schemas/${name}.json`, "utf8"))).toEqual(JSON.parse(JSON.stringify(schemas[name])));
  });
  it("say the same as the reader of what has the wrong shape", () => {
    const good = {
      format: "mirada-ruleset/1",
      site,
      offers: null,
      slots: [{ id: "s", name: "S", variants: [variant("v")] }],
    };
    const check = ajv.compile(schemas.ruleset);
    expect(check(good)).toBe(true);
    for (const wrong of [
      { ...good, surprise: 1 },
      { ...good, site: { ...site, zone: null } },
      { ...good, slots: [{ id: "s p", name: "S" }] },
      { ...good, slots: [{ name: "S" }] },
    ])
      expect([
        check(wrong),
        (() => {
          try {
            ruleset(wrong);
            return true;
          } catch {
            return false;
          }
        })(),
      ]).toEqual([false, false]);
  });
  it("hold for the engine's own decisions", () => {
    const check = ajv.compile(schemas.decision);
    const engine = createEngine(
      ruleset({
        slots: [{ id: "s", name: "S", variants: [variant("v")] }],
        redirects: [{ id: "r", name: "R", to: "/x", rule: { signal: "query.go", op: "isPresent" } }],
      }),
    );
    for (const parts of [{}, { consent: true, cart: { lines: [] } }, { url: "https://shop.example/?go" }]) {
      const decision = JSON.parse(JSON.stringify(engine.decide(visit(parts), { trace: true })));
      expect([check(decision), check.errors]).toEqual([true, null]);
    }
  });
});
