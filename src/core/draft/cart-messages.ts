/** Messages that say how much is still missing to an offer: made from it in one step, and following it when it changes. */
import { t } from "../messages/t";
import { isCondition, walkRule, type Condition, type Rule } from "../formats/rule";
import type { Content, Offer, Ruleset, Slot, Variant } from "../formats/ruleset";
import type { Edit } from "./edit";
import { freshId } from "./variants";
import { insertItem } from "./lists";
import { exponentOf, toMajorText, toMinor } from "../money/currency";

/** The states in which a visitor can be towards an offer's threshold. */
export const messageStates = ["reached", "nearly", "not-yet"] as const;
export type MessageState = (typeof messageStates)[number];

/** The ids of variants that are a message about an offer begin so. */
const prefix = (offer: string): string => `offer-${offer}-`;

/** The variants that are messages about an offer, with their slots. */
export function messagesOf(offer: string, ruleset: Ruleset): { slot: Slot; variant: Variant }[] {
  return ruleset.slots.flatMap((slot) =>
    slot.variants.filter((variant) => variant.id.startsWith(prefix(offer))).map((variant) => ({ slot, variant })),
  );
}

/** The text fields of a slot's kind of content that a message can be written into: the first line and the first text. */
function textFields(
  slot: Slot,
  ruleset: Ruleset,
): { type: string; line: string | undefined; text: string | undefined } {
  const type = slot.fallback?.type ?? slot.variants[0]?.arms[0]?.content?.type ?? ruleset.blockTypes[0]?.id ?? "";
  const fields = ruleset.blockTypes.find((item) => item.id === type)?.fields ?? [];
  return {
    type,
    line: fields.find((field) => field.kind === "line")?.id,
    text: fields.find((field) => field.kind === "text")?.id,
  };
}

/** Apostrophes and braces of a label as ICU MessageFormat wants them, so that a label is only ever text. */
const literal = (text: string): string => text.replaceAll("'", "''").replace(/[{}]/g, (brace) => `'${brace}'`);

/**
 * Three variants for a slot, ready-made: the threshold is reached, nearly reached, and not yet. The first two go above all
 * others; "not yet" holds for most, and so goes last, where it beats no message about another offer.
 * @param begin the share of the threshold from which "nearly" begins, such as 0.5
 */
export function makeMessages(
  offer: Offer,
  slot: Slot,
  ruleset: Ruleset,
  begin: number,
): { edits: Edit[]; ids: string[] } {
  const { currency } = ruleset.site;
  const threshold = toMinor(offer.threshold ?? "0", currency) ?? 0;
  const missing = toMajorText(threshold - Math.round(threshold * begin), currency);
  const least = toMajorText(1, currency);
  const signal = `cart.toGo.${offer.id}`;
  const cart: Rule = { signal: "cart.subtotal", op: "gt", value: "0" };
  const on = (rule: Rule): Rule =>
    offer.rule === null ? { all: [cart, rule] } : { all: [cart, rule, structuredClone(offer.rule)] };
  const label = literal(offer.label);
  const togo = `{togo, number, ::currency/${currency}}`;
  const states: Record<MessageState, { name: string; rule: Rule; line: string; text: string }> = {
    reached: {
      name: t("{offer}: reached", { offer: offer.name }),
      rule: on({ signal, op: "eq", value: "0" }),
      line: t("{label}: it is yours", { label }),
      text: t("It is taken off in the cart."),
    },
    nearly: {
      name: t("{offer}: nearly", { offer: offer.name }),
      rule: on({ signal, op: "between", value: [least, missing] }),
      line: t("Only {togo} to go: {label}", { togo, label }),
      text: t("You are nearly there."),
    },
    "not-yet": {
      name: t("{offer}: not yet", { offer: offer.name }),
      rule: on({ signal, op: "gt", value: missing }),
      line: t("{label}: still {togo} to go", { label, togo }),
      text: t("It is counted in the cart."),
    },
  };
  const { type, line, text } = textFields(slot, ruleset);
  let draft = ruleset;
  const edits: Edit[] = [];
  const ids: string[] = [];
  messageStates.forEach((state, index) => {
    const { name, rule, ...words } = states[state];
    const id = freshId(`${prefix(offer.id)}${state}`, draft);
    const content: Content = {
      type,
      fields: { ...(line ? { [line]: words.line } : {}), ...(text ? { [text]: words.text } : {}) },
      tokens: words.line.includes("{togo") ? { togo: { signal } } : {},
    };
    const variant: Variant = { id, name, on: true, rule, arms: [{ id: "a", weight: 100, content }] };
    edits.push(
      insertItem(["slots", slot.id, "variants"], variant, state === "not-yet" ? slot.variants.length + index : index),
    );
    ids.push(id);
    draft = {
      ...draft,
      slots: draft.slots.map((item) =>
        item.id === slot.id ? { ...item, variants: [...item.variants, variant] } : item,
      ),
    };
  });
  return { edits, ids };
}

/** Amounts of a condition on what is missing to an offer, scaled; the least amount and nothing stay. */
function scaled(condition: Condition, by: number, currency: string): Condition {
  const least = toMajorText(1, currency);
  const one = (amount: unknown): unknown => {
    const minor = typeof amount === "string" ? toMinor(amount, currency) : undefined;
    if (minor === undefined || minor === 0 || amount === least) return amount;
    return toMajorText(Math.max(1, Math.round(minor * by)), currency);
  };
  return { ...condition, value: Array.isArray(condition.value) ? condition.value.map(one) : one(condition.value) };
}

function mapConditions(rule: Rule, change: (condition: Condition) => Condition): Rule {
  if (rule === null || "audience" in rule) return rule;
  if (isCondition(rule)) return change(rule);
  if ("all" in rule) return { all: rule.all.map((inner) => mapConditions(inner, change)) };
  if ("any" in rule) return { any: rule.any.map((inner) => mapConditions(inner, change)) };
  return { none: rule.none.map((inner) => mapConditions(inner, change)) };
}

/** The edits by which an offer's messages follow another threshold: their ranges keep their share of it. */
export function followThreshold(offer: Offer, threshold: string | undefined, ruleset: Ruleset): Edit[] {
  const { currency } = ruleset.site;
  const before = toMinor(offer.threshold ?? "", currency);
  const after = toMinor(threshold ?? "", currency);
  if (!before || !after || before === after) return [];
  const signal = `cart.toGo.${offer.id}`;
  return messagesOf(offer.id, ruleset).flatMap(({ slot, variant }): Edit[] => {
    let mentions = false;
    walkRule(variant.rule, (inner) => {
      if (inner !== null && isCondition(inner) && inner.signal === signal) mentions = true;
    });
    if (!mentions) return [];
    const rule = mapConditions(variant.rule, (condition) =>
      condition.signal === signal ? scaled(condition, after / before, currency) : condition,
    );
    return [{ do: "set", at: ["slots", slot.id, "variants", variant.id, "rule"], before: variant.rule, after: rule }];
  });
}

/** The edits by which an offer's messages follow another label: wherever their texts hold the old one. */
export function followLabel(offer: Offer, label: string, ruleset: Ruleset): Edit[] {
  const old = literal(offer.label);
  if (old === "" || offer.label === label) return [];
  return messagesOf(offer.id, ruleset).flatMap(({ slot, variant }) =>
    variant.arms.flatMap((arm) =>
      Object.entries(arm.content?.fields ?? {}).flatMap(([field, text]): Edit[] =>
        typeof text === "string" && text.includes(old)
          ? [
              {
                do: "set",
                at: ["slots", slot.id, "variants", variant.id, "arms", arm.id, "content", "fields", field],
                before: text,
                after: text.replaceAll(old, literal(label)),
              },
            ]
          : [],
      ),
    ),
  );
}

/** The share of an offer's threshold from which its "nearly" message begins, if it has one. */
export function beginOf(offer: Offer, ruleset: Ruleset): number | undefined {
  const { currency } = ruleset.site;
  const threshold = toMinor(offer.threshold ?? "", currency);
  if (!threshold || exponentOf(currency) === undefined) return undefined;
  for (const { variant } of messagesOf(offer.id, ruleset)) {
    let found: number | undefined;
    walkRule(variant.rule, (inner) => {
      if (inner === null || !isCondition(inner) || inner.signal !== `cart.toGo.${offer.id}` || inner.op !== "between")
        return;
      const high = toMinor(String((inner.value as string[])[1]), currency);
      if (high !== undefined) found = 1 - high / threshold;
    });
    if (found !== undefined) return found;
  }
  return undefined;
}
