/** The demo fits whatever day it is filled in: tried for every day of two years, a leap day and four clock changes among them. */
import { describe, expect, it } from "vitest";
import { runCheck } from "@/core/checks/run";
import { createEngine } from "@/core/decision/engine";
import { rulesetOf } from "@/core/draft/picks";
import { runnable } from "@/core/draft/runnable";
import { lensSchema } from "@/core/formats/lens";
import { judgeTest } from "@/core/statistics/verdict";
import { factsByPath, onPage } from "@/core/lens/pages";
import { storePages } from "./shop/catalogue";
import { demoChecks } from "./checks";
import { localOf } from "./days";
import { demoDraft, demoEvents, demoLookup, demoWeeks, resultDays } from "./fill";
import { demoHistory } from "./history";
import { demoLenses } from "./lenses";

const day = 86_400_000;
/** From 1 June 2027 to 31 May 2029, each at another time of day: the last minutes of a day and its first among them. */
const first = Date.UTC(2027, 5, 1);
const starts = Array.from(
  { length: 731 },
  (_, index) => first + index * day + [day - 1, 0, day / 2, day - 60_000][index % 4]!,
);
const rules = rulesetOf(demoDraft(first));
const facts = factsByPath(storePages);
const nameOf = (start: number) => new Date(start).toISOString();

describe("on every day of two years", () => {
  it("every event lies inside the days that there is room for", () => {
    // Each day is tried as the first and the last of the results: what is made at one end of it shows at either.
    for (const start of starts) {
      const [from, until] = resultDays(start);
      expect((until - from) / day).toBe(demoWeeks);
      expect(until).toBeLessThanOrEqual(start);
      for (const events of demoEvents([{ from, ruleset: rules }], [from, from + day], 30)) {
        const outside = events.filter(({ at }) => Date.parse(at) < from || Date.parse(at) >= from + day);
        expect([nameOf(start), outside]).toEqual([nameOf(start), []]);
        expect(events.length).toBeGreaterThan(100);
      }
    }
  }, 120_000);

  it("the draft has no problems, the first lens is there during the clinic, and every check holds", () => {
    for (const start of starts) {
      const name = nameOf(start);
      const draft = runnable(rulesetOf(demoDraft(start)));
      expect([name, draft.problems]).toEqual([name, []]);
      const engine = createEngine(draft.ruleset, { lookup: demoLookup() });
      const [lens, ...others] = demoLenses(start).map((item) => lensSchema.parse(item));
      const clinic = localOf(lens!.visit.at);
      expect([name, new Date(`${clinic}Z`).getUTCDay(), clinic.slice(11)]).toEqual([name, 2, "10:15"]);
      expect(engine.decide(onPage(lens!.visit, facts)).slots["home-hero"]?.[0]?.variant).toBe("clinic");
      for (const { visit } of [lens!, ...others]) {
        const ahead = Date.parse(visit.at) - start;
        expect([name, ahead > 0 && ahead < 13 * day]).toEqual([name, true]);
      }
      const checks = demoChecks(start);
      expect(checks).toHaveLength(8);
      for (const check of checks)
        expect([name, check.name, runCheck(check, engine).passed]).toEqual([name, check.name, true]);
    }
  }, 120_000);

  it("a year is named only where it is the year", () => {
    for (const start of [Date.UTC(2031, 0, 1), Date.UTC(2031, 11, 31, 23, 59)]) {
      const [from] = resultDays(start);
      const whole = JSON.stringify([demoDraft(start), demoLenses(start), demoChecks(start)]);
      const years = new Set((whole.match(/\b20[2-9]\d-\d\d/g) ?? []).map((text) => text.slice(0, 4)));
      expect([...years].filter((year) => year !== "2031" && year !== "2032")).toEqual([]);
      expect(demoHistory(rules, from).every((release) => release.from >= from && release.from < start)).toBe(true);
    }
  });
});

describe("the demo's four weeks", () => {
  it("have all visitors, and the same ones each time they are made", () => {
    const start = Date.UTC(2028, 1, 29, 23, 59);
    const days = resultDays(start);
    const live = demoHistory(rules, days[0]);
    const made = [...demoEvents(live, days)];
    expect(made).toHaveLength(demoWeeks);
    const outside = made.flatMap((events, index) =>
      events.filter(({ at }) => Math.floor((Date.parse(at) - days[0]) / day) !== index && Date.parse(at) < days[0]),
    );
    expect(outside).toEqual([]);
    expect([...demoEvents(live, days)]).toEqual(made);
    for (const kind of ["exposure", "click", "conversion"])
      expect(made.flat().some((event) => event.kind === kind)).toBe(true);
  }, 60_000);

  it("have a test that can be told, whatever weekday they begin on: one arm is better, of the other nothing can be said", () => {
    for (let weekday = 0; weekday < 7; weekday++) {
      const days = resultDays(first + weekday * day);
      const told = [...demoEvents(demoHistory(rules, days[0]), days)]
        .flat()
        .filter((event) => event.slot === "product-promise" && event.first);
      const count = (arm: string, kind: string, name = "") =>
        told.filter((event) => event.arm === arm && event.kind === kind && event.name === name).length;
      const weights = { a: 40, b: 40, control: 20 };
      const arms = Object.entries(weights).map(([id, weight]) => ({
        id,
        weight,
        of: count(id, "exposure"),
        hits: count(id, "conversion", "order"),
      }));
      const { mismatch, arms: judged } = judgeTest(arms, "control");
      expect([weekday, mismatch, ...judged.map(({ id, says }) => `${id} ${says}`)]).toEqual([
        weekday,
        false,
        "a early",
        "b better",
      ]);
    }
  }, 120_000);
});
