/**
 * Rules over numbered conditions: each condition once, on the facet of a visit that it asks about, and the cells into which all
 * conditions on a facet part what a visit can be there.
 */
import { readyOffers } from "../cart/offers";
import { createEngine, type Engine } from "../decision/engine";
import { groupOf, isCondition, type Condition, type Rule } from "../formats/rule";
import type { Visit } from "../formats/visit";
import { RuleCompiler } from "../rules/compile";
import { conditionMeaning, RuleContext, type ReadyCondition } from "../rules/condition";
import { NO, YES } from "../rules/truth";
import { splitSignal, traitsOf } from "../visit/signals";
import { Reading, readingRules } from "../visit/reading";
import type { Axis } from "./axis";
import type { Domain, Setting } from "./facet";
import { facetOf, settingsOf } from "./facets/table";
import { addressOf, bareVisit, historyOf, tell, type MadeVisit } from "./made-visit";
import { eachCondition, highOf, type Bounds, type Node } from "./nodes";
import type { Cell, NodeClause } from "./search";

/** A rule that is to be true, or not to be (false or unknown: such a visitor does not see it). */
export interface Literal {
  rule: Rule;
  holds: boolean;
}
/** At least one of the literals of every clause must come true. */
export type Clause = readonly Literal[];
/** That a rule is true, and that it is not. */
export const holds = (rule: Rule): Clause => [{ rule, holds: true }];
export const fails = (rule: Rule): Clause => [{ rule, holds: false }];

/** Clauses over numbered conditions, with what they lean on. */
export interface Goal {
  clauses: NodeClause[];
  /** How many of the clauses were asked for; the rest say when a marker is held, which without consent none is. */
  asked: number;
  /** Conditions that are mentioned. */
  used: Set<number>;
  axes: number[];
  /** Conditions of rules that must hold. */
  sure: Set<number>;
}

/** Whether a signal is known only of visitors who have agreed. */
export const remembers = (signal: string): boolean => traitsOf(signal)?.log?.what === "consent";

export class Conditions {
  readonly #compiler: RuleCompiler;
  readonly engine: Engine;
  readonly conditions: ReadyCondition[] = [];
  readonly #numbers = new Map<string, number>();
  readonly #axisOf: number[] = [];
  readonly axes: Axis[] = [];
  readonly #byName = new Map<string, number>();
  readonly #nodes = new Map<Rule, Node>();
  readonly #rules;
  readonly #reckon;

  constructor(readonly domain: Domain) {
    const { ruleset } = domain;
    this.#compiler = new RuleCompiler(new RuleContext(ruleset));
    // Only readings are asked of it: history, markers and carts.
    this.engine = createEngine({ ...ruleset, slots: [], popups: [], redirects: [] });
    this.#rules = readingRules(ruleset);
    this.#reckon = readyOffers(ruleset, (rule) => this.#compiler.compile(rule));
  }

  /** A rule over numbered conditions, with audiences in their place. */
  node(rule: Rule): Node {
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
    if (members) return { kind: members.group, nodes: members.rules.map((inner) => this.node(inner)) };
    const { audience } = rule as { audience: string };
    return this.node(this.domain.ruleset.audiences.find((item) => item.id === audience)?.rule ?? null);
  }
  #condition(condition: Condition): number {
    const key = JSON.stringify(condition);
    const known = this.#numbers.get(key);
    if (known !== undefined) return known;
    const index = this.conditions.length;
    this.#numbers.set(key, index);
    this.conditions.push(this.#compiler.condition(condition));
    const name = facetOf(condition.signal, this.domain);
    let axis = this.#byName.get(name);
    if (axis === undefined) {
      axis = this.axes.length;
      this.#byName.set(name, axis);
      this.axes.push({ name, conditions: [], cells: [], exact: true, remembered: false });
    }
    const there = this.axes[axis] as Axis;
    there.conditions.push(index);
    there.cells = [];
    if (remembers(condition.signal)) there.remembered = true;
    this.#axisOf[index] = axis;
    return index;
  }
  /** A condition by its number. */
  of(index: number): Condition {
    return (this.conditions[index] as ReadyCondition).condition;
  }

  /** Clauses as they are searched for: with what says when the markers in them are held. */
  goal(clauses: readonly Clause[]): Goal {
    const made: NodeClause[] = clauses.map((clause) =>
      clause.map(({ rule, holds }) => ({ node: this.node(rule), holds })),
    );
    const asked = made.length;
    const markers = new Set<string>();
    const used = new Set<number>();
    const collect = (node: Node): void =>
      eachCondition(node, (index) => {
        used.add(index);
        const { signal } = this.of(index);
        if (signal.startsWith("marker.")) markers.add(signal.slice(7));
      });
    for (const clause of made) for (const { node } of clause) collect(node);
    // A marker is held when it was held before and is not lost here, or is gained here.
    for (const id of markers) {
      const marker = this.domain.ruleset.markers.find((item) => item.id === id);
      if (!marker) continue;
      const held = this.node({ signal: `marker.${id}`, op: "isTrue" });
      const lose = marker.lose === null ? undefined : this.node(marker.lose);
      const gain = this.node(marker.gain ?? null);
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
  cells(axis: Axis): Cell[] {
    if (axis.cells.length > 0) return axis.cells;
    const facet = settingsOf(
      axis.name,
      axis.conditions.map((index) => this.of(index)),
      this.domain,
    );
    axis.exact = facet.exact;
    axis.cells = this.part(facet.settings, axis.conditions);
    return axis.cells;
  }

  /** Parts settings into cells: one for each outcome of the conditions. */
  part(settings: readonly Setting[], conditions: readonly number[]): Cell[] {
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
      const ready = this.conditions[index] as ReadyCondition;
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
    return new Reading(visit, this.#rules, {
      history: () => historyOf(made),
      markers: () => new Set([...made.markers].filter(([, held]) => held).map(([id]) => id)),
      figures: (r) => this.#reckon(r),
    });
  }

  /**
   * Whether two rules are sure to exclude each other, seen from one facet alone: quick, and no proof of the contrary.
   */
  apart(a: Rule, b: Rule): boolean {
    const [one, two] = [this.#viable(a), this.#viable(b)];
    for (const [index, cells] of one) {
      const others = two.get(index);
      if (!others || !(this.axes[index] as Axis).exact) continue;
      if (!cells.some((viable, place) => viable && others[place])) return true;
    }
    return false;
  }
  readonly #viability = new Map<Rule, Map<number, boolean[]>>();
  /** For each facet that a rule leans on, the cells in which it can still come true. */
  #viable(rule: Rule): Map<number, boolean[]> {
    const known = this.#viability.get(rule);
    if (known) return known;
    const node = this.node(rule);
    const size = this.conditions.length;
    const bounds: Bounds = { low: new Uint8Array(size), high: new Uint8Array(size).fill(YES) };
    const used = new Set<number>();
    eachCondition(node, (index) => used.add(index));
    const out = new Map<number, boolean[]>();
    for (const place of new Set([...used].map((index) => this.#axisOf[index] as number))) {
      const axis = this.axes[place] as Axis;
      const mine = axis.conditions
        .map((condition, i) => [condition, i] as const)
        .filter(([condition]) => used.has(condition));
      out.set(
        place,
        this.cells(axis).map((cell) => {
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
}
