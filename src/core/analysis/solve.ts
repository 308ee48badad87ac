/**
 * Finds a visit for which some rules hold and others do not, or shows that there is none. The values of each facet of a visit
 * are parted into cells by the conditions on it; a search over cells, pruned by bounds on the truth of every rule, picks one
 * of each. Whatever is found is confirmed by the engine's own reading before it is told.
 */
import { asksKnown } from "../formats/operators";
import type { Condition, Rule } from "../formats/rule";
import type { Visit } from "../formats/visit";
import type { ReadyCondition } from "../rules/condition";
import { NO, UNKNOWN, YES } from "../rules/truth";
import { columnsOf, project, type Axis } from "./axis";
import { Conditions, remembers, type Clause, type Goal } from "./conditions";
import type { Domain, Setting } from "./facet";
import { settingsOf } from "./facets/table";
import { bareVisit, madeFrom, tell } from "./made-visit";
import { truthOf, type Bounds } from "./nodes";
import { search, type Cell, type SearchAxis } from "./search";

export type { Clause, Literal } from "./conditions";
export type Solution =
  | { found: true; visit: Visit }
  /** `exact`: proved, over everything a visit can be. `searched`: not found in so many tries. */
  | { found: false; proof: "exact" | "searched"; tries: number };

/** A visit that stays as it is but for some facets. */
export interface Around {
  visit: Visit;
  free: ReadonlySet<string>;
}

/** Facets whose candidates depend on how many conditions are weighed together, and are made anew for a goal. */
const refinable = /^(parameter |cookie\.|arrival|data\.|page\.|cart|place|language)/;
/** What a condition on memory comes to without consent. */
const withoutMemory = ({ op, unknown }: Condition): number => (asksKnown(op) ? NO : unknown ? YES : UNKNOWN);
const nothing: Setting = () => undefined;

export class Space {
  readonly #known: Conditions;

  constructor(readonly domain: Domain) {
    this.#known = new Conditions(domain);
  }

  /** Makes rules known beforehand, so that the cells of facets are worked out once for all of them. */
  learn(rules: Iterable<Rule>): void {
    for (const rule of rules) this.#known.node(rule);
  }

  /** A visit that meets every clause, or why there is none. Rules must have passed `checkRule`. */
  solve(clauses: readonly Clause[], around?: Around): Solution {
    const goal = this.#known.goal(clauses);
    if (around) return this.#search(goal, around.visit.consent === true || around.free.has("consent"), around);
    const first = this.#search(goal, true);
    if (first.found) return first;
    // Without consent nothing is remembered: another world, in which history and markers are unknown.
    if (!goal.axes.some((index) => (this.#known.axes[index] as Axis).remembered)) return first;
    const second = this.#search(goal, false);
    if (second.found) return second;
    return {
      found: false,
      proof: first.proof === "exact" && second.proof === "exact" ? "exact" : "searched",
      tries: first.tries + second.tries,
    };
  }

  /** The names of the facets on which clauses hang; `consent` besides, where something of memory is asked. */
  facets(clauses: readonly Clause[]): string[] {
    const axes = this.#known.goal(clauses).axes.map((index) => this.#known.axes[index] as Axis);
    return [...axes.map((axis) => axis.name), ...(axes.some((axis) => axis.remembered) ? ["consent"] : [])];
  }

  /** The settings of one facet for everything that clauses ask of it. */
  settings(clauses: readonly Clause[], name: string): readonly Setting[] {
    const { used } = this.#known.goal(clauses);
    const axis = this.#known.axes.find((item) => item.name === name);
    const asked = axis?.conditions.filter((index) => used.has(index)) ?? [];
    return settingsOf(
      name,
      asked.map((index) => this.#known.of(index)),
      this.domain,
    ).settings;
  }

  /** A visit with one setting of a facet applied, told anew. */
  apply(visit: Visit, setting: Setting): Visit {
    const made = madeFrom(visit, this.#known.engine.read(visit));
    setting(made);
    return tell(made, this.domain.ruleset);
  }

  /** Whether two rules are sure to exclude each other, seen from one facet alone: quick, and no proof of the contrary. */
  apart(a: Rule, b: Rule): boolean {
    return this.#known.apart(a, b);
  }

  #search(goal: Goal, consent: boolean, around?: Around): Solution {
    // First with the cells that are there. What they cannot show is ruled out by the exact facets alone, or tried once more
    // with cells made for this very goal.
    const plain = this.#attempt(goal, consent, around, "plain");
    if (plain.found || plain.proof === "exact") return plain;
    const ruledOut = this.#attempt(goal, consent, around, "relaxed");
    if (!ruledOut.found) return { ...ruledOut, proof: "exact" };
    const refined = this.#attempt(goal, consent, around, "refined");
    return refined.found ? refined : { ...refined, tries: plain.tries + refined.tries };
  }

  #attempt(goal: Goal, consent: boolean, around: Around | undefined, how: "plain" | "relaxed" | "refined"): Solution {
    const size = this.#known.conditions.length;
    const bounds: Bounds = { low: new Uint8Array(size), high: new Uint8Array(size).fill(YES) };
    let exact = true;
    const reading = around && this.#known.engine.read(around.visit);
    const axes = goal.axes.map((index): SearchAxis => {
      const axis = this.#known.axes[index] as Axis;
      const asked = axis.conditions.filter((condition) => goal.used.has(condition));
      // Without consent what leans on memory stays unknown, whichever cell is chosen.
      const locked = consent ? [] : asked.filter((condition) => remembers(this.#known.of(condition).signal));
      for (const condition of locked)
        bounds.low[condition] = bounds.high[condition] = withoutMemory(this.#known.of(condition));
      const mine = asked.filter((condition) => !locked.includes(condition));
      if (mine.length === 0) return { name: axis.name, conditions: [], cells: [] };
      let cells: readonly Cell[];
      if (reading && around && !around.free.has(axis.name)) {
        const truths = Uint8Array.from(mine, (condition) =>
          (this.#known.conditions[condition] as ReadyCondition).judge(reading),
        );
        cells = [{ setting: nothing, truths }];
      } else {
        const base = this.#known.cells(axis);
        if (how === "relaxed" && !axis.exact) return { name: axis.name, conditions: [], cells: [] };
        const found =
          how === "refined"
            ? this.#refined(axis, mine, goal.sure)
            : { cells: project(axis, base, mine, columnsOf(axis)), exact: axis.exact };
        cells = found.cells;
        exact &&= found.exact;
      }
      mine.forEach((condition, place) => {
        let [least, most] = [YES as number, NO as number];
        for (const cell of cells) {
          const truth = cell.truths[place] as number;
          if (truth < least) least = truth;
          if (truth > most) most = truth;
        }
        bounds.low[condition] = least;
        bounds.high[condition] = most;
      });
      return { name: axis.name, conditions: mine, cells };
    });
    const result = search<Visit>(
      consent ? goal.clauses : goal.clauses.slice(0, goal.asked),
      axes,
      bounds,
      (chosen) => this.#confirm(goal, axes, chosen, consent, around),
      how === "relaxed" ? (around?.visit ?? ({} as Visit)) : undefined,
    );
    if (result.found) return { found: true, visit: result.found };
    return { found: false, proof: exact && result.whole ? "exact" : "searched", tries: result.tries };
  }

  /** The cells of a facet by a goal's conditions only; where candidates were coarse, the goal's own are added. */
  #refined(axis: Axis, mine: readonly number[], sure: ReadonlySet<number>): { cells: readonly Cell[]; exact: boolean } {
    const cells = [...project(axis, this.#known.cells(axis), mine, columnsOf(axis))];
    if (axis.exact) return { cells, exact: true };
    if (!refinable.test(axis.name)) return { cells, exact: false };
    const seen = new Set(cells.map((cell) => cell.truths.join("")));
    const focus = mine.filter((condition) => sure.has(condition));
    const asked = focus.length > 0 && focus.length < mine.length ? focus : mine;
    const own = settingsOf(
      axis.name,
      asked.map((condition) => this.#known.of(condition)),
      this.domain,
    );
    for (const cell of this.#known.part(own.settings, mine)) if (!seen.has(cell.truths.join(""))) cells.push(cell);
    return { cells, exact: own.exact && asked === mine };
  }

  #confirm(
    goal: Goal,
    axes: readonly SearchAxis[],
    chosen: ReadonlyMap<number, Cell>,
    consent: boolean,
    around: Around | undefined,
  ): Visit | undefined {
    const { ruleset, pages, from } = this.domain;
    const made = around ? madeFrom(around.visit, this.#known.engine.read(around.visit)) : bareVisit(from);
    made.consent = consent;
    if (!around && pages?.[0] && !axes.some((axis) => axis.name === "page")) {
      made.path = pages[0].path;
      made.visit.page = pages[0].facts;
    }
    axes.forEach((axis, place) => (chosen.get(place) ?? (around ? undefined : axis.cells[0]))?.setting(made));
    const visit = tell(made, ruleset);
    const reading = this.#known.engine.read(visit);
    const judge = (index: number) => (this.#known.conditions[index] as ReadyCondition).judge(reading);
    const met = (consent ? goal.clauses : goal.clauses.slice(0, goal.asked)).every((clause) =>
      clause.some(({ node, holds }) => (truthOf(node, judge) === YES) === holds),
    );
    return met ? visit : undefined;
  }
}
