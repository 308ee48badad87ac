/**
 * The solver on texts of any length against z3 (z3-solver): its theory of strings, with patterns as regular expressions in SMT-LIB
 * 2.6. Compared exactly, since z3 knows no case folding.
 */
import { init } from "z3-solver";
import { expect, it } from "vitest";
import { Space } from "@/core/analysis/solve";
import type { Rule } from "@/core/formats/rule";
import { ruleset } from "@/core/testing";
import { generator, type Generator } from "../generated/rulesets";
import { report } from "./report";

interface Both {
  rule: Rule;
  /** The same as an SMT-LIB term. */
  term: string;
}
const words = ["fern", "shade", "ferns", "e", "ern", "shade fern"];
const patterns = ["fern*", "*fern", "*shade*", "f*n", "*e*e*", "*"];
const quoted = (text: string) => `"${text}"`;
/** A pattern in which `*` stands for any run of characters. */
function expression(pattern: string): string {
  const parts = pattern.split("*").map((part) => `(str.to_re ${quoted(part)})`);
  return parts.length === 1 ? (parts[0] as string) : `(re.++ ${parts.join(" re.all ")})`;
}

function atom(g: Generator): Both {
  const name = g.pick(["a", "b"]);
  const word = g.pick(words);
  const list = words.filter(() => g.chance(0.3));
  const chosen = list.length > 0 ? list : [word];
  const pattern = g.pick(patterns);
  const made = (op: string, value: unknown, term: string, whereAbsent = false): Both => ({
    rule: {
      signal: `cookie.${name}`,
      op,
      ...(value === undefined ? {} : { value, exact: true }),
    } as Rule,
    term: whereAbsent ? `(or (not has_${name}) ${term})` : `(and has_${name} ${term})`,
  });
  const text = quoted(word);
  const oneOf = `(or false ${chosen.map((item) => `(= ${name} ${quoted(item)})`).join(" ")})`;
  const fits = `(str.in_re ${name} ${expression(pattern)})`;
  switch (g.below(12)) {
    case 0:
      return made("is", word, `(= ${name} ${text})`);
    case 1:
      return made("isNot", word, `(not (= ${name} ${text}))`, true);
    case 2:
      return made("contains", word, `(str.contains ${name} ${text})`);
    case 3:
      return made("containsNot", word, `(not (str.contains ${name} ${text}))`, true);
    case 4:
      return made("startsWith", word, `(str.prefixof ${text} ${name})`);
    case 5:
      return made("startsNotWith", word, `(not (str.prefixof ${text} ${name}))`, true);
    case 6:
      return made("endsWith", word, `(str.suffixof ${text} ${name})`);
    case 7:
      return made("isOneOf", chosen, oneOf);
    case 8:
      return made("isNoneOf", chosen, `(not ${oneOf})`, true);
    case 9:
      return made("matches", pattern, fits);
    case 10:
      return made("matchesNot", pattern, `(not ${fits})`, true);
    default:
      return { rule: { signal: `cookie.${name}`, op: "isPresent" }, term: `has_${name}` };
  }
}

function make(g: Generator, depth: number): Both {
  if (depth === 0 || g.chance(0.3)) return atom(g);
  const members = Array.from({ length: 2 + g.below(3) }, () => make(g, depth - 1));
  const [rules, terms] = [members.map(({ rule }) => rule), members.map(({ term }) => term).join(" ")];
  switch (g.below(3)) {
    case 0:
      return { rule: { all: rules }, term: `(and ${terms})` };
    case 1:
      return { rule: { any: rules }, term: `(or ${terms})` };
    default:
      return { rule: { none: rules }, term: `(not (or ${terms}))` };
  }
}

it("satisfiability, overlap and subsumption of texts agree with z3", { timeout: 600_000 }, async () => {
  const { Context, em } = await init();
  const z = Context("main");
  const world = "(declare-const a String)(declare-const b String)(declare-const has_a Bool)(declare-const has_b Bool)";
  /** Undefined: z3 does not know within a second. */
  const possible = async (term: string): Promise<boolean | undefined> => {
    const solver = new z.Solver();
    solver.set("timeout", 1000);
    solver.fromString(`${world}(assert ${term})`);
    const told = await solver.check();
    return told === "unknown" ? undefined : told === "sat";
  };
  const space = new Space({ ruleset: ruleset(), from: Date.UTC(2026, 10, 24) });
  const solve = (clauses: [Rule, boolean][]) => space.solve(clauses.map(([rule, holds]) => [{ rule, holds }]));
  const g = generator(41);
  const cases = 80;
  let [asked, agree, notFound, impossible] = [0, 0, 0, 0];
  for (let index = 0; index < cases; index++) {
    const [one, two] = [make(g, 2), make(g, 2)];
    const questions: [[Rule, boolean][], string][] = [
      [[[one.rule, true]], one.term],
      [
        [
          [one.rule, true],
          [two.rule, true],
        ],
        `(and ${one.term} ${two.term})`,
      ],
      [
        [
          [one.rule, true],
          [two.rule, false],
        ],
        `(and ${one.term} (not ${two.term}))`,
      ],
    ];
    for (const [clauses, term] of questions) {
      const there = await possible(term);
      if (there === undefined) continue;
      asked += 1;
      const ours = solve(clauses);
      if (!there) impossible += 1;
      if (ours.found === there) agree += 1;
      if (ours.found) expect([term, there]).toEqual([term, true]);
      else if (ours.proof === "exact") expect([term, there]).toEqual([term, false]);
      else if (there) notFound += 1;
    }
  }
  // What is not found though it is there is counted apart; what is said for certain is never wrong (above).
  report("texts, z3", agree, asked - notFound);
  report("texts that z3 finds, found", asked - impossible - notFound, asked - impossible);
  expect(agree).toBe(asked - notFound);
  expect([asked > cases, impossible > 10, notFound < asked / 20]).toEqual([true, true, true]);
  (em as unknown as { PThread: { terminateAllThreads(): void } }).PThread.terminateAllThreads();
});
