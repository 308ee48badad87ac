import { t, within } from "../messages/t";
import type { Rule } from "../formats/rule";
import { placeSays, type Arm, type Content, type Ruleset, type Slot, type Variant } from "../formats/ruleset";
import { changeRows, isPagesOwn, typeName } from "../content/own";
import { ruleText } from "../rules/sentence";
import { same } from "./edit";
import { partName, valueText } from "./words";

/** One thing in which a draft differs from what is live, in words. */
export interface Difference {
  /** Where: the slot, or the kind of thing. */
  where: string;
  /** What: the variant, audience … by its name. */
  what: string;
  /** What happened to it. */
  says: string;
  before?: string;
  after?: string;
  slot?: string;
  variant?: string;
}

/**
 * What visitors get of a site before its first release: none of what is in the draft. Its kinds of blocks are kept: by themselves
 * they show nothing, and a new site begins with some.
 */
export const nothingLive = ({
  format,
  site,
  dataFields,
  collect,
  wordParameters,
  searchSources,
  blockTypes,
}: Ruleset): Ruleset => ({
  format,
  site,
  dataFields,
  collect,
  wordParameters,
  searchSources,
  blockTypes,
  placeLists: [],
  audiences: [],
  markers: [],
  slots: [],
  popups: [],
  offers: [],
  redirects: [],
  goals: [],
});

/**
 * Everything in which `now` differs from `before`, as sentences in the order of the ruleset.
 * @param empty variants of `now` that are on and find no block in the library (`emptyPicks`): a ruleset has them switched off
 */
export function differences(before: Ruleset, now: Ruleset, empty: ReadonlySet<string> = new Set()): Difference[] {
  const out = partDifferences("site", t("Settings"), before.site, now.site, before, now);
  for (const slot of now.slots) {
    const old = before.slots.find((item) => item.id === slot.id);
    if (!old) out.push({ where: slot.name, what: slot.name, says: t("is a new slot"), slot: slot.id });
    else out.push(...slotDifferences(old, slot, before, now, empty));
  }
  for (const old of before.slots)
    if (!now.slots.some((slot) => slot.id === old.id))
      out.push({ where: old.name, what: old.name, says: t("the slot is taken out") });
  const slots = orderOf(before.slots, now.slots);
  if (slots) out.push({ where: t("Slots"), what: t("The order"), says: t("is changed"), ...slots });
  const lists = {
    audiences: t("Audiences"),
    placeLists: t("Place lists"),
    markers: t("Markers"),
    popups: "Pop-ups",
    offers: t("Offers"),
    redirects: t("Redirects"),
    goals: t("Goals"),
    blockTypes: t("Kinds of blocks"),
  } as const;
  for (const [key, where] of Object.entries(lists)) {
    const list = key as keyof typeof lists;
    for (const item of now[list]) {
      const old = before[list].find((other) => other.id === item.id);
      if (!old) out.push({ where, what: item.name, says: t("is new") });
      else if (!same(old, item)) out.push(...partDifferences(list, where, old, item, before, now));
    }
    for (const old of before[list])
      if (!now[list].some((item) => item.id === old.id)) out.push({ where, what: old.name, says: t("is taken out") });
    // Of pop-ups and redirects the first wins, offers lean on those before them.
    const order = orderOf(before[list], now[list]);
    if (order) out.push({ where, what: t("The order"), says: t("is changed"), ...order });
  }
  const settings = {
    dataFields: t("What the site tells of visitors and pages"),
    collect: t("What is read from pages"),
    wordParameters: t("The parameters with search words"),
    searchSources: t("The list of search engines"),
  } as const;
  for (const [key, what] of Object.entries(settings))
    if (!same(before[key as keyof typeof settings], now[key as keyof typeof settings]))
      out.push({ where: t("Settings"), what, says: t("is changed") });
  return out;
}

/** What differs within a thing of a list, part by part. */
function partDifferences(
  list: string,
  where: string,
  old: Named,
  item: Named,
  before: Ruleset,
  now: Ruleset,
): Difference[] {
  const out: Difference[] = [];
  const say: Say = (says, was, is) =>
    out.push({
      where,
      what: item.name,
      says,
      ...(was === undefined ? {} : { before: was }),
      ...(is === undefined ? {} : { after: is }),
    });
  const was: Record<string, unknown> = { ...old };
  const is: Record<string, unknown> = { ...item };
  for (const key of new Set([...Object.keys(was), ...Object.keys(is)])) {
    if (same(was[key], is[key])) continue;
    const text = (value: unknown, ruleset: Ruleset) => valueText(`${list}/${item.id}/${key}`, value, ruleset);
    if (key === "on") say(is.on ? t("is switched on") : t("is switched off"));
    else if (key === "name") say(t("is renamed"), old.name, item.name);
    else if (key === "arms") armDifferences(was.arms as Arm[], is.arms as Arm[], say, now);
    else say(t("is changed: {key}", { key: partName(key) }), text(was[key], before), text(is[key], now));
  }
  return out;
}

function slotDifferences(
  old: Slot,
  slot: Slot,
  before: Ruleset,
  now: Ruleset,
  empty: ReadonlySet<string>,
): Difference[] {
  const out: Difference[] = [];
  const add = (variant: Variant | undefined, what: string, says: string, was?: string, is?: string) =>
    out.push({
      where: slot.name,
      what,
      says,
      slot: slot.id,
      ...(variant ? { variant: variant.id } : {}),
      ...(was === undefined ? {} : { before: was }),
      ...(is === undefined ? {} : { after: is }),
    });
  if (old.name !== slot.name) add(undefined, t("The slot"), t("is renamed"), old.name, slot.name);
  if (!same(old.pages, slot.pages))
    add(undefined, t("The slot"), t("is on other pages"), ruleText(old.pages, before), ruleText(slot.pages, now));
  if (!same(old.at, slot.at))
    add(undefined, t("The slot"), t("is at another place"), placeText(old.at), placeText(slot.at));
  if (old.goal !== slot.goal)
    add(undefined, t("The slot"), t("is read by another goal"), goalText(old.goal, before), goalText(slot.goal, now));
  if (old.take !== slot.take)
    add(undefined, t("The slot"), t("shows another number of variants"), String(old.take), String(slot.take));
  for (const variant of slot.variants) {
    const was = old.variants.find((item) => item.id === variant.id);
    const nothing = empty.has(variant.id);
    if (!was) {
      const off = nothing ? t(", with no block to show") : t(", switched off");
      add(
        variant,
        variant.name,
        t("is new, {variant} of {variants}{off}", {
          variant: slot.variants.indexOf(variant) + 1,
          variants: slot.variants.length,
          off: variant.on ? "" : off,
        }),
        undefined,
        whenText(variant.rule, now),
      );
      continue;
    }
    if (was.name !== variant.name) add(variant, variant.name, t("is renamed"), was.name, variant.name);
    if (was.on !== variant.on)
      add(variant, variant.name, variant.on ? t("is switched on") : nothing ? emptied() : t("is switched off"));
    if (!same(was.rule, variant.rule))
      add(variant, variant.name, t("has another rule"), whenText(was.rule, before), whenText(variant.rule, now));
    if (was.rememberDays !== variant.rememberDays)
      add(
        variant,
        variant.name,
        t("is remembered for another time"),
        days(was.rememberDays),
        days(variant.rememberDays),
      );
    if (!nothing) armDifferences(was.arms, variant.arms, (says, b, a) => add(variant, variant.name, says, b, a), now);
  }
  const order = orderOf(old.variants, slot.variants);
  if (order) add(undefined, t("The order"), t("is changed"), order.before, order.after);
  for (const was of old.variants)
    if (!slot.variants.some((item) => item.id === was.id)) add(undefined, was.name, t("is taken out"));
  contentDifferences(old.fallback, slot.fallback, (says, b, a) => add(undefined, t("The fallback"), says, b, a), now);
  return out;
}

const emptied = (): string => t("is left out, since no block of the library fits");

interface Named {
  id: string;
  name: string;
}
/** The order of what is in both lists, by their names, if it is another. */
function orderOf(before: readonly Named[], now: readonly Named[]): { before: string; after: string } | undefined {
  const both = (list: readonly Named[], other: readonly Named[]) =>
    list.filter((item) => other.some(({ id }) => id === item.id));
  const [old, fresh] = [both(before, now), both(now, before)];
  if (old.every((item, index) => item.id === fresh[index]?.id)) return undefined;
  const names = (list: readonly Named[]) => list.map((item) => item.name).join(", ");
  return { before: names(old), after: names(fresh) };
}
const placeText = (at: Slot["at"]): string => (at === undefined ? t("where the page marks it") : placeSays(at));
const goalText = (goal: string | undefined, { goals }: Ruleset): string =>
  goal === undefined ? t("the first that is reached") : (goals.find(({ id }) => id === goal)?.name ?? goal);
const days = (count: number | undefined): string => (count === undefined ? "not" : t("{count} days", { count }));
const whenText = (rule: Rule, ruleset: Ruleset): string =>
  rule === null ? t("for everyone") : t("when {ruleText}", { ruleText: ruleText(rule, ruleset) });

type Say = (says: string, before?: string, after?: string) => void;

function armDifferences(old: readonly Arm[], now: readonly Arm[], say: Say, ruleset: Ruleset): void {
  const shares = (arms: readonly Arm[]) => arms.map((arm) => `${arm.id} ${arm.weight} %`).join(", ");
  if (shares(old) !== shares(now)) say(t("has other arms"), shares(old), shares(now));
  for (const arm of now) {
    const was = old.find((item) => item.id === arm.id);
    if (was) contentDifferences(was.content, arm.content, say, ruleset);
  }
}

function contentDifferences(old: Content | null, now: Content | null, say: Say, ruleset: Ruleset): void {
  if (same(old, now)) return;
  if (!old || !now) return say(now ? t("has content now") : t("shows nothing now"));
  if (old.type !== now.type)
    return say(
      t("is another kind of block"),
      typeName(old.type, ruleset.blockTypes),
      typeName(now.type, ruleset.blockTypes),
    );
  if (isPagesOwn(now)) return ownDifferences(old, now, say);
  const type = ruleset.blockTypes.find((item) => item.id === now.type);
  const text = (value: unknown): string =>
    value === undefined
      ? t("nothing")
      : typeof value === "object" && value !== null
        ? String((value as { src?: unknown }).src ?? "")
        : String(value);
  for (const field of type?.fields ?? [])
    if (!same(old.fields[field.id], now.fields[field.id]))
      say(
        t("has another {field}", { field: within(field.name) }),
        text(old.fields[field.id]),
        text(now.fields[field.id]),
      );
  if (!same(old.tokens, now.tokens)) say(t("has other values of the visit in it"));
}

function ownDifferences(old: Content, now: Content, say: Say): void {
  const [was, is] = [changeRows(old), changeRows(now)];
  const changed = is.filter((row) => !was.some((one) => one.key === row.key && one.value === row.value));
  for (const { key, name, value } of changed) {
    const before = was.find((row) => row.key === key);
    say(before ? t("changes {name} otherwise", { name }) : t("changes {name}", { name }), before?.value, value);
  }
  const gone = was.filter((row) => !is.some((one) => one.key === row.key));
  for (const { name, value } of gone) say(t("no longer changes {name}", { name }), value, undefined);
  if (!same(old.tokens, now.tokens)) say(t("has other values of the visit in it"));
  // What stood there when it was made, which decides whether it is shown; the order; what a picture says.
  else if (changed.length === 0 && gone.length === 0) say(t("is made from what the page says now"));
}
