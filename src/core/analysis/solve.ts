/**
 * Finds a visit for which some rules hold and others do not, or shows that there is none. The values of each facet of a visit
 * are parted into cells by the conditions on it; a search over cells, pruned by bounds on the truth of every rule, picks one
 * of each. Whatever is found is confirmed by the engine's own reading before it is told.
 */
import { readyOffers } from "../cart/offers";
import { createEngine, type Engine } from "../decision/engine";
import { asksKnown } from "../formats/operators";
import { groupOf, isCondition, type Condition, type Rule } from "../formats/rule";
import type { Visit } from "../formats/visit";
import { RuleCompiler } from "../rules/compile";
import { conditionMeaning, RuleContext, type ReadyCondition } from "../rules/condition";
import { NO, UNKNOWN, YES } from "../rules/truth";
import { splitSignal, traitsOf } from "../visit/signals";
import { Reading, readingRules } from "../visit/reading";
import { columnsOf, project, type Axis } from "./axis";
import type { Domain, Setting } from "./facet";
import { facetOf, settingsOf } from "./facets/table";
import { addressOf, bareVisit, historyOf, madeFrom, tell, type MadeVisit } from "./made-visit";
import { eachCondition, highOf, truthOf, type Bounds, type Node } from "./nodes";
import { search, type Cell, type NodeClause, type SearchAxis } from "./search";

/** A rule that is to be true, or not to be (false or unknown: such a visitor does not see it). */
export interface Literal {
  rule: Rule;
  holds: boolean;
}
/** At least one of the literals of every clause must come true. */
export type Clause = readonly Literal[];
export type Solution =
  | { found: true; visit: Visit }
  /** `exact`: proved, over everything a visit can be. `searched`: not found in so many tries. */
  | { found: false; proof: "exact" | "searched"; tries: number };

/** A visit that stays as it is but for some facets. */
export interface Around {
  visit: Visit;
  free: ReadonlySet<string>;
}

/** Clauses over numbered conditions, with what they lean on. */
interface Goal {
  clauses: NodeClause[];
  /** How many of the clauses were asked for; the rest say when a marker is held, which without consent none is. */
  asked: number;
  /** Conditions that are mentioned. */
  used: Set<number>;
  axes: number[];
  /** Conditions of rules that must hold. */
  sure: Set<number>;
}

/** Facets whose candidates depend on how many conditions are weighed together, and are made anew for a goal. */
const refinable = /^(parameter |cookie\.|arrival|data\.|page\.|cart|place|language)/;
const remembers = (signal: string): boolean => traitsOf(signal)?.log?.what === "consent";
/** What a condition on memory comes to without consent. */
const withoutMemory = ({ op, unknown }: Condition): number => (asksKnown(op) ? NO : unknown ? YES : UNKNOWN);
const nothing: Setting = () => undefined;

export class Space {
  readonly #compiler: RuleCompiler;
  readonly #engine: Engine;
  readonly #conditions: ReadyCondition[] = [];
  readonly #numbers = new Map<string, number>();
  readonly #axisOf: number[] = [];
  readonly #axes: Axis[] = [];
  readonly #byName = new Map<string, number>();
  readonly #nodes = new Map<Rule, Node>();
  readonly #rules;
  readonly #reckon;

  constructor(readonly domain: Domain) {
    const { ruleset } = domain;
    this.#compiler = new RuleCompiler(new RuleContext(ruleset));
    // Only readings are asked of it: history, markers and carts.
    this.#engine = createEngine({ ...ruleset, slots: [], popups: [], redirects: [] });
    this.#rules = readingRules(ruleset);
    this.#reckon = readyOffers(ruleset, (rule) => this.#compiler.compile(rule));
  }

  /** Makes rules known beforehand, so that the cells of facets are worked out once for all of them. */
  learn(rules: Iterable<Rule>): void {
    for (const rule of rules) this.#node(rule);
  }

  /** A visit that meets every clause, or why there is none. Rules must have passed `checkRule`. */
  solve(clauses: readonly Clause[], around?: Around): Solution {
    const goal = this.#goal(clauses);
    if (around) return this.#search(goal, around.visit.consent === true || around.free.has("consent"), around);
    const first = this.#search(goal, true);
    if (first.found) return first;
    // Without consent nothing is remembered: another world, in which history and markers are unknown.
    if (!goal.axes.some((index) => (this.#axes[index] as Axis).remembered)) return first;
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
    const axes = this.#goal(clauses).axes.map((index) => this.#axes[index] as Axis);
    return [...axes.map((axis) => axis.name), ...(axes.some((axis) => axis.remembered) ? ["consent"] : [])];
  }

  /** The settings of one facet for everything that clauses ask of it. */
  settings(clauses: readonly Clause[], name: string): readonly Setting[] {
    const { used } = this.#goal(clauses);
    const axis = this.#axes.find((item) => item.name === name);
    const asked = axis?.conditions.filter((index) => used.has(index)) ?? [];
    return settingsOf(
      name,
      asked.map((index) => this.#of(index)),
      this.domain,
    ).settings;
  }

  /** A visit with one setting of a facet applied, told anew. */
  apply(visit: Visit, setting: Setting): Visit {
    const made = madeFrom(visit, this.#engine.read(visit));
    setting(made);
    return tell(made, this.domain.ruleset);
  }

  /** A rule over numbered conditions, with audiences in their place. */
  #node(rule: Rule): Node {
    let node = this.#nodes.get(rule);
    if (!node) {
      node = this.#make(rule);
      this.#nodes.set(rule, node);
    }
    return node;
  }
  #make(rule: Rule): Node {
    if (rule === null) return { kind: "always" };
    if (isCondition(rule)) return { kind: "condition", index: this.#condition(rule) };
    const members = groupOf(rule);
    if (members) return { kind: members.group, nodes: members.rules.map((inner) => this.#node(inner)) };
    const { audience } = rule as { audience: string };
    return this.#node(this.domain.ruleset.audiences.find((item) => item.id === audience)?.rule ?? null);
  }
  #condition(condition: Condition): number {
    const key = JSON.stringify(condition);
    const known = this.#numbers.get(key);
    if (known !== undefined) return known;
    const index = this.#conditions.length;
    this.#numbers.set(key, index);
    this.#conditions.push(this.#compiler.condition(condition));
    const name = facetOf(condition.signal, this.domain);
    let axis = this.#byName.get(name);
    if (axis === undefined) {
      axis = this.#axes.length;
      this.#byName.set(name, axis);
      this.#axes.push({ name, conditions: [], cells: [], exact: true, remembered: false });
    }
    const there = this.#axes[axis] as Axis;
    there.conditions.push(index);
    there.cells = [];
    if (remembers(condition.signal)) there.remembered = true;
    this.#axisOf[index] = axis;
    return index;
  }
  #of(index: number): Condition {
    return (this.#conditions[index] as ReadyCondition).condition;
  }

  #goal(clauses: readonly Clause[]): Goal {
    const made: NodeClause[] = clauses.map((clause) =>
      clause.map(({ rule, holds }) => ({ node: this.#node(rule), holds })),
    );
    const asked = made.length;
    const markers = new Set<string>();
    const used = new Set<number>();
    const collect = (node: Node): void =>
      eachCondition(node, (index) => {
        used.add(index);
        const { signal } = this.#of(index);
        if (signal.startsWith("marker.")) markers.add(signal.slice(7));
      });
    for (const clause of made) for (const { node } of clause) collect(node);
    // A marker is held when it was held before and is not lost here, or is gained here.
    for (const id of markers) {
      const marker = this.domain.ruleset.markers.find((item) => item.id === id);
      if (!marker) continue;
      const held = this.#node({ signal: `marker.${id}`, op: "isTrue" });
      const lose = marker.lose === null ? undefined : this.#node(marker.lose);
      const gain = this.#node(marker.gain ?? null);
      if (lose)
        made.push([
          { node: held, holds: false },
          { node: lose, holds: false },
        ]);
      if (marker.gainViews <= 1)
        made.push([
          { node: held, holds: true },
          { node: gain, holds: false },
          ...(lose ? [{ node: lose, holds: true }] : []),
        ]);
      for (const node of [held, gain, ...(lose ? [lose] : [])]) collect(node);
    }
    const axes = [...new Set([...used].map((index) => this.#axisOf[index] as number))];
    const sure = new Set<number>();
    for (const clause of made)
      if (clause.length === 1 && clause[0]?.holds) eachCondition(clause[0].node, (index) => sure.add(index));
    return { clauses: made, asked, used, axes, sure };
  }

  /** The cells of a facet by all conditions on it, worked out once. */
  #cells(axis: Axis): Cell[] {
    if (axis.cells.length > 0) return axis.cells;
    const facet = settingsOf(
      axis.name,
      axis.conditions.map((index) => this.#of(index)),
      this.domain,
    );
    axis.exact = facet.exact;
    axis.cells = this.#part(facet.settings, axis.conditions);
    return axis.cells;
  }

  /** Parts settings into cells: one for each outcome of the conditions. */
  #part(settings: readonly Setting[], conditions: readonly number[]): Cell[] {
    const seen = new Set<string>();
    const out: Cell[] = [];
    for (const setting of settings) {
      const made = bareVisit(this.domain.from);
      setting(made);
      const truths = this.#judge(made, conditions);
      const key = truths.join("");
      if (seen.has(key)) continue;
      seen.add(key);
      out.push({ setting, truths });
    }
    return out;
  }

  #judge(made: MadeVisit, conditions: readonly number[]): Uint8Array {
    const reading = this.#reading(made);
    const truths = new Uint8Array(conditions.length);
    conditions.forEach((index, place) => {
      const ready = this.#conditions[index] as ReadyCondition;
      const named = splitSignal(ready.condition.signal);
      const birthday = named && /data\.$/.test(named.prefix) ? made.anniversaries.get(named.name) : undefined;
      if (birthday)
        truths[place] =
          conditionMeaning(ready.condition, this.domain.ruleset)?.is === "anniversary"
            ? birthday.same
              ? YES
              : NO
            : ready.judge(this.#reading({ ...made, visit: tell(made, this.domain.ruleset) }));
      else truths[place] = ready.judge(reading);
    });
    return truths;
  }
  #reading(made: MadeVisit): Reading {
    const visit: Visit = {
      ...made.visit,
      at: new Date(made.at).toISOString(),
      url: addressOf(made, this.domain.ruleset.site.origin),
      ...(made.zone ? { zone: made.zone } : {}),
    };
    const reading = new Reading(visit, this.#rules);
    reading.history = historyOf(made);
    reading.markers = new Set([...made.markers].filter(([, held]) => held).map(([id]) => id));
    reading.figures = () => this.#reckon(reading);
    return reading;
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
    const size = this.#conditions.length;
    const bounds: Bounds = { low: new Uint8Array(size), high: new Uint8Array(size).fill(YES) };
    let exact = true;
    const reading = around && this.#engine.read(around.visit);
    const axes = goal.axes.map((index): SearchAxis => {
      const axis = this.#axes[index] as Axis;
      const asked = axis.conditions.filter((condition) => goal.used.has(condition));
      // Without consent what leans on memory stays unknown, whichever cell is chosen.
      const locked = consent ? [] : asked.filter((condition) => remembers(this.#of(condition).signal));
      for (const condition of locked)
        bounds.low[condition] = bounds.high[condition] = withoutMemory(this.#of(condition));
      const mine = asked.filter((condition) => !locked.includes(condition));
      if (mine.length === 0) return { name: axis.name, conditions: [], cells: [] };
      let cells: readonly Cell[];
      if (reading && around && !around.free.has(axis.name)) {
        const truths = Uint8Array.from(mine, (condition) =>
          (this.#conditions[condition] as ReadyCondition).judge(reading),
        );
        cells = [{ setting: nothing, truths }];
      } else {
        const base = this.#cells(axis);
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

  /**
   * Whether two rules are sure to exclude each other, seen from one facet alone: quick, and no proof of the contrary.
   */
  apart(a: Rule, b: Rule): boolean {
    const [one, two] = [this.#viable(a), this.#viable(b)];
    for (const [index, cells] of one) {
      const others = two.get(index);
      if (!others || !(this.#axes[index] as Axis).exact) continue;
      if (!cells.some((viable, place) => viable && others[place])) return true;
    }
    return false;
  }
  readonly #viability = new Map<Rule, Map<number, boolean[]>>();
  /** For each facet that a rule leans on, the cells in which it can still come true. */
  #viable(rule: Rule): Map<number, boolean[]> {
    const known = this.#viability.get(rule);
    if (known) return known;
    const node = this.#node(rule);
    const size = this.#conditions.length;
    const bounds: Bounds = { low: new Uint8Array(size), high: new Uint8Array(size).fill(YES) };
    const used = new Set<number>();
    eachCondition(node, (index) => used.add(index));
    const out = new Map<number, boolean[]>();
    for (const place of new Set([...used].map((index) => this.#axisOf[index] as number))) {
      const axis = this.#axes[place] as Axis;
      const mine = axis.conditions
        .map((condition, i) => [condition, i] as const)
        .filter(([condition]) => used.has(condition));
      out.set(
        place,
        this.#cells(axis).map((cell) => {
          for (const [condition, i] of mine) bounds.low[condition] = bounds.high[condition] = cell.truths[i] as number;
          return highOf(node, bounds) === YES;
        }),
      );
      for (const [condition] of mine) {
        bounds.low[condition] = NO;
        bounds.high[condition] = YES;
      }
    }
    this.#viability.set(rule, out);
    return out;
  }

  /** The cells of a facet by a goal's conditions only; where candidates were coarse, the goal's own are added. */
  #refined(axis: Axis, mine: readonly number[], sure: ReadonlySet<number>): { cells: readonly Cell[]; exact: boolean } {
    const cells = [...project(axis, this.#cells(axis), mine, columnsOf(axis))];
    if (axis.exact) return { cells, exact: true };
    if (!refinable.test(axis.name)) return { cells, exact: false };
    const seen = new Set(cells.map((cell) => cell.truths.join("")));
    const focus = mine.filter((condition) => sure.has(condition));
    const asked = focus.length > 0 && focus.length < mine.length ? focus : mine;
    const own = settingsOf(
      axis.name,
      asked.map((condition) => this.#of(condition)),
      this.domain,
    );
    for (const cell of this.#part(own.settings, mine)) if (!seen.has(cell.truths.join(""))) cells.push(cell);
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
    const made = around ? madeFrom(around.visit, this.#engine.read(around.visit)) : bareVisit(from);
    made.consent = consent;
    if (!around && pages?.[0] && !axes.some((axis) => axis.name === "page")) {
      made.path = pages[0].path;
      made.visit.page = pages[0].facts;
    }
    axes.forEach((axis, place) => (chosen.get(place) ?? (around ? undefined : axis.cells[0]))?.setting(made));
    const visit = tell(made, ruleset);
    const reading = this.#engine.read(visit);
    const judge = (index: number) => (this.#conditions[index] as ReadyCondition).judge(reading);
    const met = (consent ? goal.clauses : goal.clauses.slice(0, goal.asked)).every((clause) =>
      clause.some(({ node, holds }) => (truthOf(node, judge) === YES) === holds),
    );
    return met ? visit : undefined;
  }
}
