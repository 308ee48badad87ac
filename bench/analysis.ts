/** The time of the analysis for 10, 50 and 200 variants of 6 conditions, and the same questions put to z3 in the same run. */
import { init } from "z3-solver";
import { findings } from "@/core/analysis/findings";
import { Space } from "@/core/analysis/solve";
import type { Rule } from "@/core/formats/rule";
import { readRuleset } from "@/core/ruleset/check";
import { cpu, line, random } from "./measure";

const days = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
const from = Date.UTC(2026, 10, 24);

/** One condition, by what it leans on and what it asks: a value, or a stretch of hours on a day. */
type Atom =
  | { signal: "campaign.source" | "cookie.c" | "query.q"; value: number; not: boolean }
  | { day: number; start: number; end: number };

const atoms = (): Atom[] =>
  Array.from({ length: 6 }, (_, i): Atom => {
    if (i === 5) {
      const start = random(16);
      return { day: random(7), start, end: start + 2 + random(22 - start) };
    }
    const signal = (["campaign.source", "cookie.c", "query.q"] as const)[i % 3] as "cookie.c";
    return { signal, value: random(40), not: i > 2 };
  });
const ruleOf = (list: Atom[]): Rule => ({
  all: list.map((atom) =>
    "signal" in atom
      ? { signal: atom.signal, op: atom.not ? "isNot" : "is", value: `v${atom.value}` }
      : {
          signal: "time",
          op: "within",
          value: {
            zone: "UTC",
            days: [days[atom.day]],
            windows: [
              { start: `${String(atom.start).padStart(2, "0")}:00`, end: `${String(atom.end).padStart(2, "0")}:00` },
            ],
          },
        },
  ),
});

export async function analysisFigures(): Promise<void> {
  const { Context, em } = await init();
  for (const count of [10, 50, 200]) {
    const made = Array.from({ length: count }, atoms);
    const read = readRuleset({
      format: "mirada-ruleset/1",
      site: { id: "s", name: "S", zone: "UTC", currency: "EUR", language: "en", origin: "https://shop.example" },
      slots: [
        {
          id: "s",
          name: "S",
          variants: made.map((list, index) => ({
            id: `v${index}`,
            name: `v${index}`,
            rule: ruleOf(list),
            arms: [{ id: "a", weight: 100, content: null }],
          })),
        },
      ],
    });
    if (!read.ok) throw new Error("the ruleset of the benchmark is wrong");
    const { variants } = read.value.slots[0]!;
    let told = 0;
    const whole = await cpu(() => {
      for (const step of findings({ ruleset: read.value, from })) if (step.finding) told++;
    });
    const reached: boolean[] = [];
    const ours = await cpu(() => {
      const space = new Space({ ruleset: read.value, from });
      space.learn(variants.map((variant) => variant.rule));
      variants.forEach((variant, index) =>
        reached.push(
          space.solve([
            [{ rule: variant.rule, holds: true }],
            ...variants.slice(0, index).map((item) => [{ rule: item.rule, holds: false }]),
          ]).found,
        ),
      );
    });

    const z = Context("bench");
    const names = { "campaign.source": z.Int.const("s"), "cookie.c": z.Int.const("c"), "query.q": z.Int.const("q") };
    const day = z.Int.const("day");
    const hour = z.Int.const("hour");
    const terms = made.map((list) =>
      z.And(
        ...list.map((atom) =>
          "signal" in atom
            ? atom.not
              ? names[atom.signal].neq(atom.value)
              : names[atom.signal].eq(atom.value)
            : z.And(day.eq(atom.day), hour.ge(atom.start), hour.lt(atom.end)),
        ),
      ),
    );
    const theirs: boolean[] = [];
    const other = await cpu(async () => {
      for (const [index, term] of terms.entries()) {
        const solver = new z.Solver();
        solver.add(
          day.ge(0),
          day.le(6),
          hour.ge(0),
          hour.le(23),
          term,
          ...terms.slice(0, index).map((item) => z.Not(item)),
        );
        theirs.push((await solver.check()) === "sat");
      }
    });
    line({
      figure: "analysis, CPU seconds",
      variants: count,
      "all findings": Number(whole.toFixed(3)),
      findings: told,
      "who reaches each variant": Number(ours.toFixed(3)),
      "the same by z3": Number(other.toFixed(3)),
      "times z3": Number((other / ours).toFixed(1)),
      "answers equal": JSON.stringify(reached) === JSON.stringify(theirs),
    });
  }
  (em as unknown as { PThread: { terminateAllThreads(): void } }).PThread.terminateAllThreads();
}
