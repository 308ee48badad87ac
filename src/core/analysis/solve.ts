/**
 * Finds a visit for which some rules hold and others do not, or shows that there is none. The values of each facet of a visit
 * are parted into cells by the conditions on it; a search over cells, pruned by bounds on the truth of every rule, picks one
 * of each. Whatever is found is confirmed by the engine's own reading before it is told.
 */
import { readyOffers } from "../cart/offers";
import { groupOf, isCondition, type Condition, type Group, type Rule } from "../formats/rule";
import type { Visit } from "../formats/visit";
import { createEngine, type Engine } from "../decision/engine";
import { RuleCompiler } from "../rules/compile";
import { RuleContext, type ReadyCondition } from "../rules/condition";
import { NO, UNKNOWN, YES } from "../rules/truth";
import { Reading, readingRules } from "../visit/reading";
import { facetOf, settingsOf, type Domain, type Setting } from "./facets";
import { addressOf, bareVisit, historyOf, tell, type MadeVisit } from "./made-visit";

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

type Node = { kind: "condition"; index: number } | { kind: Group; nodes: Node[] } | { kind: "always" };

interface Cell {
  setting: Setting;
  /** The truth of each of the facet's conditions, in their order. */
  truths: Uint8Array;
}
interface Axis {
  name: string;
  conditions: number[];
  cells: Cell[];
  exact: boolean;
  /** Whether its conditions lean on memory, and so are unknown without consent. */
  remembered: boolean;
}

/** Clauses over numbered conditions, with what they lean on. */
interface Goal {
  clauses: { node: Node; holds: boolean }[][];
  /** Conditions that are mentioned. */
  used: Set<number>;
  axes: number[];
  /** Conditions of rules that must hold. */
  sure: Set<number>;
}

const mostTries = 3000;
/** Facets whose candidates depend on how many conditions are weighed together, and are made anew for a goal. */
const refinable = /^(parameter |cookie\.|arrival|data\.|page\.|cart|place|language)/;

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
    this.#engine = createEngine(ruleset);
    this.#rules = readingRules(ruleset);
    this.#reckon = readyOffers(ruleset, (rule) => this.#compiler.compile(rule));
  }

  /** A visit that meets every clause, or why there is none. Rules must have passed `checkRule`. */
  solve(clauses: readonly Clause[]): Solution {
    const goal = this.#goal(clauses);
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
      this.#axes.push({
        name,
        conditions: [],
        cells: [],
        exact: true,
        remembered: /^(history|marker\.)/.test(condition.signal),
      });
    }
    const there = this.#axes[axis] as Axis;
    there.conditions.push(index);
    there.cells = [];
    if (/^(history|marker\.)/.test(condition.signal)) there.remembered = true;
    this.#axisOf[index] = axis;
    return index;
  }

  #goal(clauses: readonly Clause[]): Goal {
    const made: Goal["clauses"] = clauses.map((clause) =>
      clause.map(({ rule, holds }) => ({ node: this.#node(rule), holds })),
    );
    const markers = new Set<string>();
    const used = new Set<number>();
    const collect = (node: Node): void => {
      if (node.kind === "condition") {
        used.add(node.index);
        const { signal } = (this.#conditions[node.index] as ReadyCondition).condition;
        if (signal.startsWith("marker.")) markers.add(signal.slice(7));
      } else if (node.kind !== "always") node.nodes.forEach(collect);
    };
    for (const clause of made) for (const { node } of clause) collect(node);
    // A marker is held when it was held before and is not lost here, or is gained here.
    for (const id of markers) {
      const marker = this.domain.ruleset.markers.find((item) => item.id === id);
      if (!marker) continue;
      const held = this.#node({ signal: `marker.${id}`, op: "isTrue" });
      const lose = marker.lose === null ? undefined : this.#node(marker.lose);
      const gain = this.#node(marker.gain ?? null);
      const kept = [{ node: held, holds: false }];
      made.push(lose ? [...kept, { node: lose, holds: false }] : [{ node: { kind: "always" }, holds: true }]);
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
      if (clause.length === 1 && clause[0]?.holds) {
        const walk = (node: Node): void => {
          if (node.kind === "condition") sure.add(node.index);
          else if (node.kind !== "always") node.nodes.forEach(walk);
        };
        walk(clause[0].node);
      }
    return { clauses: made, used, axes, sure };
  }

  /** The cells of a facet by all conditions on it, worked out once. */
  #cells(axis: Axis): Cell[] {
    if (axis.cells.length > 0) return axis.cells;
    const conditions = axis.conditions.map((index) => (this.#conditions[index] as ReadyCondition).condition);
    const facet = settingsOf(axis.name, conditions, this.domain);
    axis.exact = facet.exact;
    axis.cells = this.#part(facet.settings, axis.conditions, axis.conditions);
    return axis.cells;
  }

  /** Parts settings into cells: one for each outcome of the conditions `by`. */
  #part(settings: readonly Setting[], conditions: readonly number[], by: readonly number[]): Cell[] {
    const seen = new Set<string>();
    const out: Cell[] = [];
    const places = by.map((index) => conditions.indexOf(index));
    for (const setting of settings) {
      const made = bareVisit(this.domain.from);
      setting(made);
      const truths = this.#judge(made, conditions);
      const key = places.map((place) => truths[place]).join("");
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
      const { signal, op } = ready.condition;
      const date = signal.startsWith("data.") ? signal.slice(5) : signal.startsWith("page.data.") ? signal.slice(10) : undefined; // prettier-ignore
      const birthday = date === undefined ? undefined : made.anniversaries.get(date);
      truths[place] = birthday
        ? op === "anniversary"
          ? birthday.same
            ? YES
            : NO
          : ready.judge(this.#reading({ ...made, visit: tell(made, this.domain.ruleset) }))
        : ready.judge(reading);
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

  #search(goal: Goal, consent: boolean): Solution {
    const { clauses, used, sure } = goal;
    const low = new Uint8Array(this.#conditions.length);
    const high = new Uint8Array(this.#conditions.length).fill(YES);
    let exact = true;
    const axes = goal.axes.map((index) => {
      const axis = this.#axes[index] as Axis;
      const mine = axis.conditions.filter((condition) => used.has(condition));
      if (axis.remembered && !consent) {
        const locked = mine.filter((condition) =>
          /^(history|marker\.)/.test((this.#conditions[condition] as ReadyCondition).condition.signal),
        );
        for (const condition of locked) {
          const { op } = (this.#conditions[condition] as ReadyCondition).condition;
          low[condition] = high[condition] = op === "isKnown" ? NO : UNKNOWN;
        }
        if (locked.length === mine.length) return { name: axis.name, conditions: mine, cells: [] as Cell[] };
      }
      const all = this.#cells(axis);
      let cells = all;
      if (mine.length < axis.conditions.length || !axis.exact) {
        // Only the outcomes of this goal's conditions matter; where candidates were coarse, its own are added.
        const places = mine.map((condition) => axis.conditions.indexOf(condition));
        const seen = new Set<string>();
        cells = [];
        const take = (cell: Cell) => {
          const key = cell.truths.join("");
          if (seen.has(key)) return;
          seen.add(key);
          cells.push(cell);
        };
        for (const cell of all)
          take({ setting: cell.setting, truths: Uint8Array.from(places, (place) => cell.truths[place] as number) });
        if (!axis.exact && refinable.test(axis.name)) {
          const focus = mine.filter((condition) => sure.has(condition));
          const asked = focus.length > 0 && focus.length < mine.length ? focus : mine;
          const own = settingsOf(
            axis.name,
            asked.map((condition) => (this.#conditions[condition] as ReadyCondition).condition),
            this.domain,
          );
          for (const cell of this.#part(own.settings, mine, mine)) take(cell);
          if (!(own.exact && asked === mine)) exact = false;
        } else if (!axis.exact) exact = false;
      }
      mine.forEach((condition, place) => {
        let [least, most] = [YES as number, NO as number];
        for (const cell of cells) {
          const truth = cell.truths[place] as number;
          if (truth < least) least = truth;
          if (truth > most) most = truth;
        }
        low[condition] = least;
        high[condition] = most;
      });
      return { name: axis.name, conditions: mine, cells };
    });

    const lowOf = (node: Node): number => {
      switch (node.kind) {
        case "condition":
          return low[node.index] as number;
        case "always":
          return YES;
        case "all": {
          let least: number = YES;
          for (const inner of node.nodes) {
            const truth = lowOf(inner);
            if (truth < least) least = truth;
            if (least === NO) break;
          }
          return least;
        }
        case "any": {
          let most: number = NO;
          for (const inner of node.nodes) {
            const truth = lowOf(inner);
            if (truth > most) most = truth;
            if (most === YES) break;
          }
          return most;
        }
        case "none": {
          let most: number = NO;
          for (const inner of node.nodes) most = Math.max(most, highOf(inner));
          return YES - most;
        }
      }
    };
    const highOf = (node: Node): number => {
      switch (node.kind) {
        case "condition":
          return high[node.index] as number;
        case "always":
          return YES;
        case "all": {
          let least: number = YES;
          for (const inner of node.nodes) {
            const truth = highOf(inner);
            if (truth < least) least = truth;
            if (least === NO) break;
          }
          return least;
        }
        case "any": {
          let most: number = NO;
          for (const inner of node.nodes) {
            const truth = highOf(inner);
            if (truth > most) most = truth;
            if (most === YES) break;
          }
          return most;
        }
        case "none": {
          let most: number = NO;
          for (const inner of node.nodes) most = Math.max(most, lowOf(inner));
          return YES - most;
        }
      }
    };

    const chosen = new Map<number, Cell>();
    const axisOf = new Map<number, number>();
    axes.forEach((axis, place) => axis.conditions.forEach((condition) => axisOf.set(condition, place)));
    let tries = 0;
    let gaveUp = false;

    /** The clause to work on next; undefined: all are met; null: one cannot be met any more. */
    const next = (): Goal["clauses"][number] | undefined | null => {
      let open: Goal["clauses"][number] | undefined;
      let size = Infinity;
      for (const clause of clauses) {
        let met = false;
        let possible = 0;
        for (const { node, holds } of clause) {
          if (holds ? lowOf(node) === YES : highOf(node) < YES) {
            met = true;
            break;
          }
          if (holds ? highOf(node) === YES : lowOf(node) < YES) possible += 1;
        }
        if (met) continue;
        if (possible === 0) return null;
        // Rules that must hold are worked on first: they leave the fewest choices.
        const rank = clause.length === 1 && clause[0]?.holds ? 0 : 1;
        if (rank < size) {
          open = clause;
          size = rank;
        }
      }
      return open;
    };
    /** A facet that is not chosen yet and on which the clause still hangs; the one with the fewest cells. */
    const axisFor = (clause: Goal["clauses"][number]): number | undefined => {
      let best: number | undefined;
      const walk = (node: Node): void => {
        if (node.kind === "condition") {
          const place = axisOf.get(node.index);
          if (place === undefined || chosen.has(place) || low[node.index] === high[node.index]) return;
          if (best === undefined || (axes[place]?.cells.length ?? 0) < (axes[best]?.cells.length ?? 0)) best = place;
        } else if (node.kind !== "always") node.nodes.forEach(walk);
      };
      for (const { node, holds } of clause) if (holds ? highOf(node) === YES : lowOf(node) < YES) walk(node);
      return best;
    };

    const confirm = (): Visit | undefined => {
      const made = bareVisit(this.domain.from);
      made.consent = consent;
      axes.forEach((axis, place) => {
        const cell = chosen.get(place) ?? axis.cells[0];
        cell?.setting(made);
      });
      if (!axes.some((axis) => axis.name === "page") && this.domain.pages?.[0]) {
        made.path = this.domain.pages[0].path;
        made.visit.page = this.domain.pages[0].facts;
      }
      const visit = tell(made, this.domain.ruleset);
      const reading = this.#engine.read(visit);
      const met = clauses.every((clause) =>
        clause.some(({ node, holds }) => (this.#truth(node, reading) === YES) === holds),
      );
      return met ? visit : undefined;
    };

    const step = (): Visit | undefined => {
      if (tries > mostTries) {
        gaveUp = true;
        return undefined;
      }
      const clause = next();
      if (clause === null) return undefined;
      if (clause === undefined) {
        tries += 1;
        const visit = confirm();
        if (!visit) exact = false;
        return visit;
      }
      const place = axisFor(clause);
      if (place === undefined) return undefined;
      const axis = axes[place] as (typeof axes)[number];
      const was = axis.conditions.map((condition) => [low[condition] as number, high[condition] as number] as const);
      for (const cell of axis.cells) {
        tries += 1;
        chosen.set(place, cell);
        axis.conditions.forEach((condition, i) => {
          low[condition] = high[condition] = cell.truths[i] as number;
        });
        const found = step();
        if (found) return found;
        if (gaveUp) break;
      }
      chosen.delete(place);
      axis.conditions.forEach((condition, i) => {
        [low[condition], high[condition]] = was[i] as readonly [number, number];
      });
      return undefined;
    };
    const visit = step();
    if (visit) return { found: true, visit };
    return { found: false, proof: exact && !gaveUp ? "exact" : "searched", tries };
  }

  #truth(node: Node, reading: Reading): number {
    switch (node.kind) {
      case "condition":
        return (this.#conditions[node.index] as ReadyCondition).judge(reading);
      case "always":
        return YES;
      case "all":
        return Math.min(YES, ...node.nodes.map((inner) => this.#truth(inner, reading)));
      case "any":
        return Math.max(NO, ...node.nodes.map((inner) => this.#truth(inner, reading)));
      case "none":
        return YES - Math.max(NO, ...node.nodes.map((inner) => this.#truth(inner, reading)));
    }
  }
}
