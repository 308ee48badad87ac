/** For whom another ruleset changes what is shown: with a visitor for each change, confirmed under both. */
import { t } from "../messages/t";
import { createEngine, type Engine } from "../decision/engine";
import { same } from "../draft/edit";
import type { Decision } from "../decision/decision";
import { groupOf, isCondition, type Rule } from "../formats/rule";
import type { Offer, Popup, Redirect, Ruleset, Slot, Variant } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { formatMoney } from "../money/currency";
import type { KnownPage } from "./made-visit";
import { someoneWhoIsSent, someoneWhoOpens, wanted } from "./reach";
import { differingParts } from "./sheet";
import { Space, type Clause } from "./solve";
import { holds } from "./conditions";

/** One way in which what visitors get is changed. */
export interface Effect {
  kind: "slot" | "popup" | "redirect" | "cart";
  /** The slot, pop-up, redirect or offer, and its name. */
  id: string;
  name: string;
  /** What the witness gets under either ruleset, in words. */
  before: string;
  after: string;
  /** Who they are: the rule under which it comes about, to be told as a sentence; null: everyone. */
  rule: Rule;
  /** Whose rule that is: of what is shown now, or of what is shown no more. */
  from: "before" | "after";
  /** Somebody who gets the one before and the other after. */
  witness: Visit;
}

export type EffectStep = { done: number; of: number; effect?: Effect };

export interface Compared {
  before: Ruleset;
  after: Ruleset;
  pages: readonly KnownPage[];
  /** From when on instants are sought, epoch ms. */
  from: number;
}

/**
 * Looks for every way in which `after` changes what visitors get, a step at a time. Each effect is confirmed by deciding its
 * witness under both rulesets; that none is found for a change is no proof that there is none.
 */
export function* effects({ before, after, pages, from }: Compared): Generator<EffectStep> {
  const engines: Pair = { before: createEngine(before), after: createEngine(after) };
  const slots = unionOf(before.slots, after.slots);
  const lists = {
    popup: [before.popups, after.popups],
    redirect: [before.redirects, after.redirects],
    cart: [before.offers, after.offers],
  } as const;
  const others: Other[] = Object.entries(lists).flatMap(([kind, [old, now]]) =>
    unionOf<Item>(old, now)
      .filter(([a, b]) => !same(a, b))
      .map(([a, b]) => ({ kind: kind as keyof typeof lists, a, b })),
  );
  // What changed places is told of somebody whom both of the two concern.
  const swapped: Swapped[] = Object.entries(lists).flatMap(([kind, [old, now]]) =>
    swaps<Item>(old, now)
      .slice(0, mostSwaps)
      .map(([above, below]) => ({ kind: kind as keyof typeof lists, above, below })),
  );
  const of = slots.length + others.length + swapped.length;
  let done = 0;
  for (const [old, slot] of slots) {
    for (const effect of slotEffects(old, slot, { before, after, pages, from }, engines)) yield { done, of, effect };
    yield { done: ++done, of };
  }
  /** Somebody whom a pop-up, redirect or offer concerns, and for whom `also` holds. */
  const find = (
    kind: Other["kind"],
    { id }: Item,
    ruleset: Ruleset,
    also: readonly Clause[] = [],
  ): Visit | undefined => {
    const domain = { ruleset, pages, from };
    const own = <T extends Item>(list: readonly T[]) => list.find((item) => item.id === id) as T;
    if (kind === "popup") return visitOf(someoneWhoOpens(domain, own(ruleset.popups), also));
    if (kind === "redirect") return visitOf(someoneWhoIsSent(domain, own(ruleset.redirects), also));
    return buyer(domain, own(ruleset.offers), also);
  };
  for (const { kind, above, below } of swapped) {
    const also: Clause[] = [holds(below.rule)];
    if ("pages" in below) also.push(holds(below.pages));
    if ("threshold" in below && below.threshold !== undefined) also.push(atLeast(below.threshold));
    const witness = find(kind, above, after, also);
    const effect = witness && told(kind, above, above.rule, "after", witness, engines);
    if (effect) yield { done, of, effect };
    yield { done: ++done, of };
  }
  for (const { kind, a, b } of others) {
    for (const side of ["after", "before"] as const) {
      const item = side === "after" ? b : a;
      const witness = item && find(kind, item, side === "after" ? after : before);
      const effect = witness && told(kind, item, item.rule, side, witness, engines);
      if (!effect) continue;
      yield { done, of, effect };
      break;
    }
    yield { done: ++done, of };
  }
}

/** All effects at once. */
export const allEffects = (compared: Compared): Effect[] =>
  [...effects(compared)].flatMap((step) => (step.effect ? [step.effect] : []));

/** A ruleset with what only another has and its rules speak of: markers, offers and fields that are gone, or not there yet. */
function withThingsOf(other: Ruleset, ruleset: Ruleset): Ruleset {
  const more = <T>(own: readonly T[], others: readonly T[], key: (item: T) => string): T[] => {
    const known = new Set(own.map(key));
    return [...own, ...others.filter((item) => !known.has(key(item)))];
  };
  return {
    ...ruleset,
    markers: more(ruleset.markers, other.markers, (item) => item.id),
    offers: more(ruleset.offers, other.offers, (item) => item.id),
    dataFields: more(ruleset.dataFields, other.dataFields, (item) => `${item.signal}.${item.name}`),
  };
}

type Pair = Record<"before" | "after", Engine>;
type Item = Popup | Redirect | Offer;
interface Other {
  kind: "popup" | "redirect" | "cart";
  a: Item | undefined;
  b: Item | undefined;
}
/** Two that changed places: the one that stands above the other now. */
interface Swapped {
  kind: Other["kind"];
  above: Item;
  below: Item;
}
/** At most so many pairs that changed places are looked at, of each kind. */
const mostSwaps = 20;

/** The pairs that stand in another order now: each with the one that is above now first. */
function swaps<T extends Item>(before: readonly T[], after: readonly T[]): [T, T][] {
  const was = new Map(before.map((item, index) => [item.id, index]));
  return after.flatMap((above, index) =>
    after.slice(index + 1).flatMap((below): [T, T][] => {
      const [a, b] = [was.get(above.id), was.get(below.id)];
      return above.on && below.on && a !== undefined && b !== undefined && a > b ? [[above, below]] : [];
    }),
  );
}

function unionOf<T extends { id: string }>(
  before: readonly T[],
  after: readonly T[],
): [T | undefined, T | undefined][] {
  return [
    ...after.map((item): [T | undefined, T | undefined] => [before.find((old) => old.id === item.id), item]),
    ...before.filter((old) => !after.some((item) => item.id === old.id)).map((old): [T, undefined] => [old, undefined]),
  ];
}

const visitOf = (solution: ReturnType<Space["solve"]>): Visit | undefined =>
  solution.found ? solution.visit : undefined;

function* slotEffects(
  old: Slot | undefined,
  slot: Slot | undefined,
  compared: Compared,
  engines: Pair,
): Generator<Effect> {
  const { before, after, pages } = compared;
  // Both rulesets' rules are asked of one visitor: audiences and place lists are written out, since their ids may mean two things.
  const was = old && writtenOut(old, before);
  const now = slot && writtenOut(slot, after);
  if (was && now && same(was, now) && same(before.markers, after.markers) && same(before.dataFields, after.dataFields))
    return;
  const space = new Space({ ruleset: withThingsOf(before, after), pages, from: compared.from });
  const told = new Set<string>();
  const goals: { side: "before" | "after"; of: Variant | null; clauses: Clause[] }[] = [];
  if (now)
    for (const variant of [...now.variants.filter((item) => item.on), null]) {
      const { clauses } = wanted(now, variant);
      const twin = was && (variant === null ? null : was.variants.find((item) => item.id === variant.id && item.on));
      const alike =
        twin !== undefined && (variant === null ? same(was?.fallback, now.fallback) : same(twin?.arms, variant.arms));
      // Who saw the very same before is no news: somebody is sought who did not.
      const negation = was && alike ? notAll(wanted(was, twin).clauses) : undefined;
      goals.push({ side: "after", of: variant, clauses: negation ? [...clauses, negation] : clauses });
    }
  if (was)
    for (const variant of was.variants.filter(
      (item) => item.on && !now?.variants.some((other) => other.id === item.id && other.on),
    ))
      goals.push({ side: "before", of: variant, clauses: wanted(was, variant).clauses });
  if (was && !now) goals.push({ side: "before", of: null, clauses: wanted(was, null).clauses });
  space.learn([...(was?.variants ?? []), ...(now?.variants ?? [])].map((variant) => variant.rule));
  for (const { side, of, clauses } of goals) {
    const witness = visitOf(space.solve(clauses));
    if (!witness) continue;
    const [a, b] = [engines.before.decide(witness), engines.after.decide(witness)];
    const id = (slot ?? old)?.id as string;
    if (same(a.slots[id], b.slots[id])) continue;
    // Who falls back to what everybody else gets is told by the rule of what they got before.
    const from = of === null ? "before" : side;
    const whose = of?.id ?? a.slots[id]?.[0]?.variant;
    const effect: Effect = {
      kind: "slot",
      id,
      name: (slot ?? old)?.name as string,
      ...outcomes(a, b, id, old, slot),
      rule: (from === "after" ? slot : old)?.variants.find((variant) => variant.id === whose)?.rule ?? null,
      from,
      witness,
    };
    const key = `${effect.before}|${effect.after}`;
    if (told.has(key)) continue;
    told.add(key);
    yield effect;
  }
}

/** The one clause that says that not all of some clauses hold; undefined where that is more than one clause. */
function notAll(clauses: readonly Clause[]): Clause | undefined {
  if (clauses.some((clause) => clause.length !== 1)) return undefined;
  return clauses.flatMap((clause) => clause.map(({ rule, holds }) => ({ rule, holds: !holds })));
}

/** A slot with its audiences' rules and its place lists' entries in their places. */
function writtenOut(slot: Slot, ruleset: Ruleset): Slot {
  const write = (rule: Rule): Rule => {
    if (rule === null) return null;
    if (isCondition(rule)) {
      if (
        !Array.isArray(rule.value) ||
        !rule.value.some((entry) => typeof entry === "object" && entry !== null && "list" in entry)
      )
        return rule;
      const value = (rule.value as unknown[]).flatMap((entry) =>
        typeof entry === "object" && entry !== null && "list" in entry
          ? (ruleset.placeLists.find((list) => list.id === (entry as { list: string }).list)?.places ?? [])
          : [entry],
      );
      // A list without places holds for nobody.
      return value.length > 0 ? ({ ...rule, value } as Rule) : rule.op === "isIn" ? { none: [null] } : null;
    }
    const members = groupOf(rule);
    if (members) return { [members.group]: members.rules.map(write) } as Rule;
    const { audience } = rule as { audience: string };
    return write(ruleset.audiences.find((item) => item.id === audience)?.rule ?? null);
  };
  return {
    ...slot,
    pages: write(slot.pages),
    variants: slot.variants.map((variant) => ({ ...variant, rule: write(variant.rule) })),
  };
}

/** What a slot shows before and after, in words that differ. */
function outcomes(
  a: Decision,
  b: Decision,
  id: string,
  old: Slot | undefined,
  slot: Slot | undefined,
): Pick<Effect, "before" | "after"> {
  const words = (decision: Decision, of: Slot | undefined): string => {
    const shown = decision.slots[id];
    if (!shown) return t("no such slot");
    const names = shown.map(({ variant, content }) =>
      variant === null
        ? content
          ? t("the fallback")
          : t("nothing")
        : `“${of?.variants.find((item) => item.id === variant)?.name ?? variant}”`,
    );
    return names.join(", ") || t("nothing");
  };
  const [before, after] = [words(a, old), words(b, slot)];
  return { before, after: before === after ? `${after}, changed` : after };
}

/** Somebody to whom an offer is given: whose cart reaches its threshold, with what is in its scope where that can be. */
function buyer(
  domain: { ruleset: Ruleset; pages: readonly KnownPage[]; from: number },
  offer: Offer,
  also: readonly Clause[],
): Visit | undefined {
  const visit = visitOf(new Space(domain).solve([holds(offer.rule), atLeast(offer.threshold ?? "0.01"), ...also]));
  if (!visit?.cart || !offer.scope) return visit;
  const { categories: [category] = [], skus: [sku] = [] } = offer.scope;
  const lines = visit.cart.lines.map((line) =>
    category !== undefined ? { ...line, category } : sku !== undefined ? { ...line, sku } : line,
  );
  const inScope = { ...visit, cart: { ...visit.cart, lines } };
  const given = createEngine(domain.ruleset)
    .decide(inScope)
    .cart?.adjustments.some((item) => item.offer === offer.id);
  return given ? inScope : visit;
}

/** That a cart comes to an amount. */
const atLeast = (amount: string): Clause => [
  { rule: { signal: "cart.subtotal", op: "gte", value: amount } as Rule, holds: true },
];

/** An effect on pop-up, redirect or cart, if the witness really gets something else. */
function told(
  kind: Other["kind"],
  item: Item,
  rule: Rule,
  side: "before" | "after",
  witness: Visit,
  engines: Pair,
): Effect | undefined {
  const [a, b] = [engines.before.decide(witness), engines.after.decide(witness)];
  const part = `*${kind}`;
  const differs =
    differingParts(a, b).includes(part) ||
    (kind === "popup" && !same(a.popup, b.popup)) ||
    (kind === "cart" && !same(a.cart, b.cart));
  if (!differs) return undefined;
  const words = (decision: Decision, { ruleset }: Engine): string => {
    if (kind === "popup")
      return decision.popup
        ? `“${ruleset.popups.find((one) => one.id === decision.popup?.id)?.name}” opens`
        : t("no pop-up");
    if (kind === "redirect")
      return decision.redirect
        ? t("is sent to {location}", { location: decision.redirect.location })
        : t("stays on the page");
    const { cart } = decision;
    const { currency, language } = ruleset.site;
    if (!cart) return t("no cart");
    const money = (minor: number) => formatMoney(minor, currency, language);
    // Whoever pays the same has more or less to go.
    const toGo = a.cart?.total === b.cart?.total ? cart.toGo[item.id] : undefined;
    return t("pays {total}{freeDelivery}{toGo}", {
      total: money(cart.total),
      freeDelivery: cart.freeDelivery ? t(" with free delivery") : "",
      toGo: toGo ? t(", {toGo} to go", { toGo: money(toGo) }) : "",
    });
  };
  const [before, after] = [words(a, engines.before), words(b, engines.after)];
  return {
    kind,
    id: item.id,
    name: item.name,
    before,
    after: before === after ? `${after}, changed` : after,
    rule,
    from: side,
    witness,
  };
}
