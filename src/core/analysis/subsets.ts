import type { Rule } from "../formats/rule";
import type { Clause } from "./solve";

/** All subsets of a size, in the order of the list. */
export function* subsets<T>(list: readonly T[], size: number): Generator<T[]> {
  if (size === 0) {
    yield [];
    return;
  }
  for (let index = 0; index <= list.length - size; index++)
    for (const rest of subsets(list.slice(index + 1), size - 1)) yield [list[index] as T, ...rest];
}

/** More clauses than these are not weighed: there are as many as ways to fill the places. */
const mostClauses = 3000;

/**
 * What must come true so that the rules above leave a place among `take`: of every `take` of them one must fail. Where there
 * are too many ways to fill the places, all of them must fail: enough to find somebody, but no proof that there is nobody.
 */
export function placeLeft(above: readonly Rule[], take: number): { clauses: Clause[]; exact: boolean } {
  if (above.length < take) return { clauses: [], exact: true };
  let ways = 1;
  for (let index = 0; index < take; index++) ways = (ways * (above.length - index)) / (index + 1);
  const exact = ways <= mostClauses;
  const failing = exact ? [...subsets(above, take)] : above.map((rule) => [rule]);
  return { clauses: failing.map((chosen) => chosen.map((rule) => ({ rule, holds: false }))), exact };
}
