/** The JsonLogic export, evaluated by two reference engines (json-logic-engine 5, json-logic-js 2), beside the engine itself. */
import { LogicEngine } from "json-logic-engine";
import jsonLogic from "json-logic-js";
import { expect, it } from "vitest";
import { createEngine } from "@/core/decision/engine";
import { signalDocument, toJsonLogic } from "@/core/exchange/json-logic";
import type { Visit } from "@/core/formats/visit";
import { readRuleset } from "@/core/ruleset/check";
import { ruleset, variant, visit } from "@/core/testing";
import { demoRuleset } from "../../demo/ruleset";
import { report } from "./report";

let state = 11;
const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 8) % n;
const pick = <T>(list: readonly T[]): T => list[random(list.length)] as T;
const maybe = (parts: Record<string, unknown>): Record<string, unknown> => (random(3) === 0 ? {} : parts);

/** A visit with whatever rules ask about, often missing. */
const anyVisit = (): Visit =>
  visit({
    at: pick(["2026-11-24T10:15:00Z", "2026-11-28T23:10:00Z", "2026-12-04T09:00:00Z"]),
    url: `https://shop.example${pick(["/", "/ferns", "/cart", "/advice", "/ferns/maidenhair"])}?${pick(["", "utm_source=Mossmail", "utm_source=quarry&utm_term=shade+fern", "choice=a&choice=Straße", "topic=water", "utm_campaign=Winter-Light&utm_source=mossmail", "utm_content=growers"])}`,
    ...maybe({
      referrer: pick([
        "https://quarry.example/search?q=dark+fern+shade",
        "https://stone-and-moss.example/x",
        "https://elsewhere.example/",
      ]),
    }),
    ...maybe({
      place: pick([
        { country: "PT", region: "PT-11", city: "Lisbon" },
        { country: "ES" },
        { country: "no", city: "Oslo" },
        { country: "US" },
        { region: "PT-11" },
      ]),
    }),
    ...maybe({
      userAgent: pick([
        "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
        "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0",
        "Googlebot/2.1",
      ]),
    }),
    ...maybe({ acceptLanguage: pick(["pt-PT,pt;q=0.9,en;q=0.5", "es", "de-DE, en", "*"]) }),
    ...maybe({ cookies: { member: pick(["yes", "", "NO", "Straße"]) } }),
    ...maybe({ consent: true, visitorId: "v" }),
    ...maybe({
      page: { id: pick(["home", "cart", "advice"]), category: pick(["ferns", "care"]), tags: ["shade", "north"] },
    }),
    ...maybe({
      cart: {
        lines: random(2) ? [] : [{ sku: "fern-01", category: "ferns", quantity: 1 + random(4), unitPrice: 1295 }],
      },
    }),
    ...maybe({
      data: { signedIn: random(2) === 0, wishList: random(2) ? [] : ["fern-07"], since: "2026-11-24", age: 7 },
    }),
  });

const leaves = (): unknown => {
  const text = pick([
    "campaign.source",
    "campaign.term",
    "query.choice",
    "cookie.member",
    "search.words",
    "page.tags",
    "page.path",
    "data.wishList",
  ]);
  const word = pick(["mossmail", "shade", "STRASSE", "fern", "yes", "/ferns", "fern-07", "e"]);
  return pick<() => unknown>([
    () => ({
      signal: text,
      op: pick(["is", "isNot", "contains", "containsNot", "startsWith", "startsNotWith", "endsWith"]),
      value: word,
      ...(random(3) ? {} : { exact: true }),
    }),
    () => ({ signal: text, op: pick(["isOneOf", "isNoneOf"]), value: [word, "mossmail"] }),
    () => ({
      signal: text,
      op: pick(["hasAllWords", "hasAnyWord", "hasNoneOfWords", "hasPhrase"]),
      value: pick(["shade fern", "fern", "dark fern"]),
    }),
    () => ({
      signal: text,
      op: pick(["matches", "matchesNot"]),
      value: pick(["*fern*", "moss*", "*e", "shade", "*", "s*n"]),
    }),
    () => ({
      signal: pick([text, "cart.count", "place", "language", "history.visits", "device.width", "data.signedIn"]),
      op: pick(["isPresent", "isAbsent", "isKnown"]),
    }),
    () => ({
      signal: pick(["cart.count", "history.views", "data.age", "device.browserVersion"]),
      op: pick(["eq", "ne", "lt", "lte", "gt", "gte"]),
      value: pick([0, 1, 7, 26]),
    }),
    () => ({
      signal: pick(["cart.subtotal", "cart.total"]),
      op: pick(["eq", "ne", "lt", "gte"]),
      value: pick(["25.90", "0", "12.95"]),
    }),
    () => ({ signal: "cart.subtotal", op: "between", value: ["12.95", "30"] }),
    () => ({ signal: "data.signedIn", op: pick(["isTrue", "isFalse"]) }),
    () => ({ signal: "data.since", op: pick(["on", "before", "after"]), value: pick(["2026-11-24", "2026-11-25"]) }),
    () => ({ signal: "language", op: pick(["prefers", "accepts"]), value: pick([["pt"], ["pt-PT", "de"], ["en"]]) }),
    () => ({
      signal: "place",
      op: pick(["isIn", "isNotIn"]),
      value: pick<unknown>([
        [{ country: "PT" }],
        [{ country: "PT", city: "Lisbon" }, { country: "NO" }],
        [{ continent: "EU" }],
        [{ list: "l" }],
        [{ country: "ES", region: "ES-MD" }],
        [{ lat: 38.7, lon: -9.1, km: 50 }],
      ]),
    }),
    () => ({ signal: "time", op: pick(["within", "outside"]), value: { zone: "site", days: ["TU"] } }),
    () => ({ audience: "people" }),
  ])();
};
const rule = (depth: number): unknown =>
  depth === 0 || random(3) === 0
    ? leaves()
    : { [pick(["all", "any", "none"])]: Array.from({ length: 1 + random(3) }, () => rule(depth - 1)) };

it("answers as the engine does, on generated rules and visits", () => {
  const reference = new LogicEngine();
  let agree = 0;
  let of = 0;
  for (let round = 0; round < 400; round++) {
    const rules = ruleset({
      dataFields: [
        { signal: "data", name: "signedIn", kind: "flag" },
        { signal: "data", name: "wishList", kind: "texts" },
        { signal: "data", name: "since", kind: "date" },
        { signal: "data", name: "age", kind: "number" },
      ],
      searchSources: [{ host: "quarry.example", engine: "quarry", parameter: "q" }],
      placeLists: [{ id: "l", name: "L", places: [{ country: "ES" }, { country: "PT", region: "PT-11" }] }],
      audiences: [{ id: "people", name: "People", rule: { signal: "campaign.source", op: "is", value: "mossmail" } }],
      slots: [
        {
          id: "s",
          name: "S",
          pages: random(4) ? null : rule(1),
          variants: [variant("a", rule(2)), variant("b", rule(3)), { ...variant("c", rule(1)), on: random(2) === 0 }],
        },
      ],
    });
    const engine = createEngine(rules);
    const exported = JSON.parse(JSON.stringify(toJsonLogic(rules))) as ReturnType<typeof toJsonLogic>;
    for (let count = 0; count < 25; count++) {
      const one = anyVisit();
      const shown = engine.decide(one).slots.s;
      const own = shown ? (shown[0]?.variant ?? "fallback") : null;
      const data = JSON.parse(JSON.stringify(signalDocument(engine, one, exported)));
      const answers = [
        reference.run(exported.slots.s as never, data),
        jsonLogic.apply(exported.slots.s as never, data),
      ];
      of += 1;
      if (answers.every((answer) => answer === own)) agree += 1;
      else throw new Error(JSON.stringify({ own, answers, rules: rules.slots, data, logic: exported.slots.s }));
    }
  }
  expect(report("JsonLogic export, json-logic-engine and json-logic-js", agree, of)).toBe(1);
});

it("carries the demo’s rules, and names what it leaves out", () => {
  const read = readRuleset(demoRuleset(0));
  if (!read.ok) throw new Error("the demo's ruleset is wrong");
  const exported = toJsonLogic(read.value);
  const engine = createEngine(read.value);
  const reference = new LogicEngine();
  let compared = 0;
  for (let count = 0; count < 500; count++) {
    const one = anyVisit();
    const { slots, redirect } = engine.decide(one);
    if (redirect) continue;
    compared += 1;
    const data = signalDocument(engine, one, exported);
    for (const [id, logic] of Object.entries(exported.slots)) {
      const take = read.value.slots.find((slot) => slot.id === id)!.take;
      const answer = reference.run(logic as never, data) as string | string[] | null;
      const own = slots[id]?.map((item) => item.variant ?? "fallback");
      if (take === 1) expect([id, answer]).toEqual([id, own?.[0] ?? null]);
      else if (own) expect((answer as string[]).slice(0, take)).toEqual(own.filter((item) => item !== "fallback"));
    }
  }
  expect(compared).toBeGreaterThan(300);
  expect(exported.conditions.map((item) => item.says)).toEqual(
    expect.arrayContaining([expect.stringContaining("Tuesday")]),
  );
  expect(exported.leftOut).toEqual(
    expect.arrayContaining([
      expect.stringContaining("Promise"),
      expect.stringContaining("The redirect"),
      expect.stringContaining("The offer"),
    ]),
  );
});
