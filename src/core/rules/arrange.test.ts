import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { groupOf, makeGroup, type Group, type Rule } from "../formats/rule";
import { ruleset } from "../testing";
import { firstUnfinished, insertAt, isInside, moveTo, partAt, removeAt, step, unwrap, wrap, type Way } from "./arrange";

const c = (name: string): Rule => ({ signal: `cookie.${name}`, op: "isPresent" });
/** A rule as a short text: all(a,any(b,c)). */
const short = (rule: Rule): string => {
  if (rule === null) return "-";
  const members = groupOf(rule);
  return members
    ? `${members.group}(${members.rules.map(short).join(",")})`
    : (rule as { signal: string }).signal.slice(7);
};
const sample: Rule = { all: [c("a"), { any: [c("b"), c("c")] }, c("d")] };

describe("rearranging a rule", () => {
  it("moves a part past, into and out of groups, step by step", () => {
    let at: { rule: Rule; way: Way } = { rule: sample, way: [0] };
    const seen: string[] = [];
    for (let count = 0; count < 5; count++) {
      at = step(at.rule, at.way, 1);
      seen.push(short(at.rule));
    }
    expect(seen).toEqual([
      "all(any(a,b,c),d)",
      "all(any(b,a,c),d)",
      "all(any(b,c,a),d)",
      "all(any(b,c),a,d)",
      "all(any(b,c),d,a)",
    ]);
    for (let count = 0; count < 5; count++) at = step(at.rule, at.way, -1);
    expect(short(at.rule)).toBe(short(sample));
  });

  it("takes out, puts in, wraps and dissolves", () => {
    expect(short(removeAt(sample, [1, 0]))).toBe("all(a,any(c),d)");
    expect(removeAt(c("a"), [0])).toBeNull();
    expect(short(insertAt(sample, [1], 1, c("x")))).toBe("all(a,any(b,x,c),d)");
    expect(short(insertAt(null, [], 0, c("x")))).toBe("all(x)");
    expect(short(wrap(sample, [2], "none"))).toBe("all(a,any(b,c),none(d))");
    expect(short(unwrap(sample, [1]))).toBe("all(a,b,c,d)");
  });

  it("finds the first condition that is not finished", () => {
    const [whole, open] = [
      { signal: "page.path", op: "is", value: "/" },
      { signal: "page.path", op: "is" },
    ] as Rule[];
    expect(firstUnfinished({ all: [whole!, { any: [whole!, open!] }, open!] }, ruleset())).toEqual([1, 1]);
    expect(firstUnfinished(open!, ruleset())).toEqual([]);
    expect(firstUnfinished({ all: [whole!] }, ruleset())).toBeUndefined();
    expect(firstUnfinished(null, ruleset())).toBeUndefined();
  });
  it("never puts a group into itself", () => {
    expect(moveTo(sample, [1], [1], 0).rule).toBe(sample);
  });

  const rules: fc.Arbitrary<Rule> = fc.letrec<{ rule: Rule }>((tie) => ({
    rule: fc.oneof(
      { depthSize: "small" },
      fc.constantFrom("a", "b", "c", "d", "e").map(c),
      fc
        .tuple(fc.constantFrom<Group>("all", "any", "none"), fc.array(tie("rule"), { minLength: 1, maxLength: 3 }))
        .map(([group, members]) => makeGroup(group, members)),
    ),
  })).rule;
  const leaves = (rule: Rule): string[] =>
    rule === null ? [] : (groupOf(rule)?.rules.flatMap(leaves) ?? [(rule as { signal: string }).signal]);
  const ways = (rule: Rule, way: Way = []): Way[] => [
    ...(way.length > 0 ? [way] : []),
    ...((rule && groupOf(rule)?.rules.flatMap((inner, i) => ways(inner, [...way, i]))) ?? []),
  ];

  it("loses and doubles nothing, whatever is moved wherever", () => {
    fc.assert(
      fc.property(
        fc.array(rules, { minLength: 1, maxLength: 4 }),
        fc.nat(),
        fc.nat(),
        fc.nat(3),
        (members, a, b, index) => {
          const rule: Rule = { all: members };
          const all = ways(rule);
          const from = all[a % all.length]!;
          const groups = [[] as Way, ...all.filter((way) => groupOf(partAt(rule, way) ?? null))];
          const to = groups[b % groups.length]!;
          const size = groupOf(partAt(rule, to)!)!.rules.length;
          const moved = moveTo(rule, from, to, index % (size + 1));
          expect(leaves(moved.rule).sort()).toEqual(leaves(rule).sort());
          expect(partAt(moved.rule, moved.way)).toEqual(partAt(rule, from));
          if (!isInside(to, from))
            for (const by of [1, -1] as const) {
              const stepped = step(rule, from, by);
              expect(leaves(stepped.rule).sort()).toEqual(leaves(rule).sort());
              expect(partAt(stepped.rule, stepped.way)).toEqual(partAt(rule, from));
            }
        },
      ),
      { numRuns: 2000 },
    );
  });
});
