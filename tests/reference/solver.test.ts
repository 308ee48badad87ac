/** Satisfiability and subsumption on generated rules against z3 (z3-solver), over signals that are never unknown. */
import { init } from "z3-solver";
import { expect, it } from "vitest";
import { Space } from "@/core/analysis/solve";
import type { Rule } from "@/core/formats/rule";
import { ruleset } from "@/core/testing";
import { report } from "./report";

let state = 3;
const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 8) % n;
const sources = ["a", "b", "c"];
const days = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];

/** A rule, and the same over whole numbers: source (0 absent, 1–3, 4 another), cookie (the same), day (0–6), hour (0–23). */
interface Pair<E> {
  rule: Rule;
  term: E;
}

it("agrees with z3", { timeout: 300_000 }, async () => {
  const { Context, em } = await init();
  const z = Context("main");
  const source = z.Int.const("source");
  const cookie = z.Int.const("cookie");
  const day = z.Int.const("day");
  const hour = z.Int.const("hour");
  const within = (name: typeof source, low: number, high: number) => z.And(name.ge(low), name.le(high));
  const world = z.And(within(source, 0, 4), within(cookie, 0, 4), within(day, 0, 6), within(hour, 0, 23));
  type Term = typeof world;

  const atom = (): Pair<Term> => {
    const [signal, name] = random(2) === 0 ? (["campaign.source", source] as const) : (["cookie.c", cookie] as const);
    const one = random(3);
    switch (random(5)) {
      case 0:
        return { rule: { signal, op: "is", value: sources[one]! }, term: name.eq(one + 1) };
      case 1:
        return { rule: { signal, op: "isNot", value: sources[one]! }, term: name.neq(one + 1) };
      case 2:
        return { rule: { signal, op: "isAbsent" }, term: name.eq(0) };
      default: {
        const chosen = days.filter(() => random(3) === 0);
        const list = chosen.length > 0 ? chosen : [days[random(7)]!];
        const start = random(20);
        const end = start + 1 + random(23 - start);
        return {
          rule: {
            signal: "time",
            op: "within",
            value: {
              zone: "UTC",
              days: list,
              windows: [{ start: `${String(start).padStart(2, "0")}:00`, end: `${String(end).padStart(2, "0")}:00` }],
            },
          },
          term: z.And(z.Or(...list.map((text) => day.eq(days.indexOf(text)))), hour.ge(start), hour.lt(end)),
        };
      }
    }
  };
  const make = (depth: number): Pair<Term> => {
    if (depth === 0 || random(3) === 0) return atom();
    const members = Array.from({ length: 2 + random(3) }, () => make(depth - 1));
    const rules = members.map((item) => item.rule);
    const terms = members.map((item) => item.term);
    switch (random(3)) {
      case 0:
        return { rule: { all: rules }, term: z.And(...terms) };
      case 1:
        return { rule: { any: rules }, term: z.Or(...terms) };
      default:
        return { rule: { none: rules }, term: z.Not(z.Or(...terms)) };
    }
  };
  const sat = async (term: Term): Promise<boolean> => {
    const solver = new z.Solver();
    solver.add(world, term);
    return (await solver.check()) === "sat";
  };

  const rules = ruleset();
  const cases = 400;
  let agree = 0;
  let proved = 0;
  let impossible = 0;
  for (let i = 0; i < cases; i++) {
    const [one, two] = [make(2), make(2)];
    const space = new Space({ ruleset: rules, from: Date.UTC(2026, 10, 24) });
    const asked = [
      [space.solve([[{ rule: one.rule, holds: true }]]), one.term],
      [space.solve([[{ rule: one.rule, holds: true }], [{ rule: two.rule, holds: true }]]), z.And(one.term, two.term)],
      // Whether one is within two: no visit meets one without meeting two.
      [
        space.solve([[{ rule: one.rule, holds: true }], [{ rule: two.rule, holds: false }]]),
        z.And(one.term, z.Not(two.term)),
      ],
    ] as const;
    for (const [ours, term] of asked) {
      const possible = await sat(term);
      if (ours.found === possible) agree++;
      if (!possible) impossible++;
      // What is called proven must be so: nothing that z3 finds is ever proven away.
      if (!ours.found && ours.proof === "exact") {
        expect(possible).toBe(false);
        proved++;
      }
    }
  }
  report("satisfiability, overlap and subsumption, z3", agree, cases * 3);
  expect(agree).toBe(cases * 3);
  report("of what z3 proves impossible, proven here", proved, impossible);
  expect(impossible).toBeGreaterThan(100);
  expect(proved).toBeGreaterThan(0.75 * impossible);
  (em as unknown as { PThread: { terminateAllThreads(): void } }).PThread.terminateAllThreads();
});
