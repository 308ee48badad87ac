/** Promises and what stands behind them: messages without an offer, offers nobody is told of, amounts that fall between. */
import { locale, t } from "../messages/t";
import { exponentOf, formatMoney, toMinor } from "../money/currency";
import { isCondition, walkRule, type Rule } from "../formats/rule";
import type { Decision } from "../decision/decision";
import type { Offer, Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { parseLocal } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";
import { allContents, allRules, usesOf, type Owner } from "../ruleset/uses";
import type { Evidence } from "./evidence";
import type { Domain } from "./facet";
import type { Finding } from "./findings";
import { Space } from "./solve";
import { holds } from "./conditions";

/** Signs of currencies that texts use: the usual symbols, beside ISO 4217 codes. */
const symbols: Record<string, string> = {
  "€": "EUR",
  $: "USD",
  "£": "GBP",
  "¥": "JPY",
  "₹": "INR",
  "₩": "KRW",
  zł: "PLN",
  R$: "BRL",
};

/** Amounts of money in a text: "€60", "60 €", "EUR 60", "60,00 EUR". */
export function amountsIn(text: string): { currency: string; amount: string }[] {
  const out: { currency: string; amount: string }[] = [];
  const sign = "R\\$|€|\\$|£|¥|₹|₩|zł|[A-Z]{3}";
  const number = "\\d{1,3}(?:[.,  ]\\d{3})*(?:[.,]\\d{1,3})?|\\d+(?:[.,]\\d{1,3})?";
  for (const match of text.matchAll(new RegExp(`(?:(${sign})\\s?(${number}))|(?:(${number})\\s?(${sign}))`, "g"))) {
    const written = match[1] ?? match[4] ?? "";
    const currency = symbols[written] ?? (exponentOf(written) === undefined ? undefined : written);
    const digits = (match[2] ?? match[3] ?? "").replace(/[  ]/g, "");
    // The last separator is of decimals if at most two digits follow it.
    const amount = /[.,]\d{1,2}$/.test(digits)
      ? `${digits.slice(0, digits.search(/[.,]\d{1,2}$/)).replace(/[.,]/g, "")}.${digits.slice(digits.search(/[.,]\d{1,2}$/) + 1)}`
      : digits.replace(/[.,]/g, "");
    if (currency) out.push({ currency, amount });
  }
  return out;
}

const at = (owner: Owner): Pick<Finding, "slot" | "variant" | "about"> =>
  owner.kind === "variant"
    ? { slot: owner.slot as string, variant: owner.id }
    : owner.kind === "slot"
      ? { slot: owner.id }
      : { about: { kind: owner.kind, id: owner.id } };

/** Whether an offer can apply at all from some instant on. */
function isOver(offer: Offer, ruleset: Ruleset, from: number): boolean {
  return offer.until !== undefined && zoneOf(ruleset.site.zone).toInstant(parseLocal(offer.until) as number) <= from;
}

export function* offerFindings(domain: Domain, evidence: Evidence): Generator<Finding> {
  const { ruleset, from } = domain;
  const { currency, language } = ruleset.site;
  const money = (minor: number): string => formatMoney(minor, currency, language);
  const minor = (text: string | undefined): number | undefined =>
    text === undefined ? undefined : toMinor(text, currency);
  const live = ruleset.offers.filter((offer) => offer.on && !isOver(offer, ruleset, from));
  const dead = ruleset.offers.filter((offer) => !live.includes(offer));
  const known = new Set<number>();
  for (const offer of live) {
    for (const amount of [minor(offer.threshold), "amount" in offer.reward ? minor(offer.reward.amount) : undefined])
      if (amount !== undefined) known.add(amount);
  }

  // A message about an offer that gives nothing, and amounts that no offer has.
  for (const { owner, content } of allContents(ruleset)) {
    for (const offer of dead)
      if (Object.values(content.tokens).some((token) => token.signal === `cart.toGo.${offer.id}`))
        yield {
          finding: "promise",
          ...at(owner),
          other: offer.id,
          proof: "exact",
          says: t("{owner} promises “{offer}”, which {on}: no visitor gets it.", {
            owner: owner.name,
            offer: offer.name,
            on: offer.on ? t("is over") : t("is switched off"),
          }),
        };
    for (const text of Object.values(content.fields)) {
      if (typeof text !== "string") continue;
      for (const found of amountsIn(text.replace(/\{[^{}]*\}/g, " "))) {
        const value = minor(found.amount);
        if (found.currency !== currency)
          yield {
            finding: "currency",
            ...at(owner),
            proof: "exact",
            says: t("{owner} speaks of {currency} {amount}, but the site reckons in {currency2}.", {
              owner: owner.name,
              currency: found.currency,
              amount: found.amount,
              currency2: currency,
            }),
          };
        else if (value !== undefined && !known.has(value))
          yield {
            finding: "promise",
            ...at(owner),
            proof: "searched",
            says: t("{owner} speaks of {money}: no offer that is on has that threshold or gives that amount.", {
              owner: owner.name,
              money: money(value),
            }),
          };
      }
      for (const match of text.matchAll(/(\d{1,2}(?:[.,]\d{1,2})?)\s?%/g)) {
        const percent = Number((match[1] as string).replace(",", "."));
        if (!live.some((offer) => "percent" in offer.reward && offer.reward.percent === percent))
          yield {
            finding: "promise",
            ...at(owner),
            proof: "searched",
            says: t("{owner} speaks of {percent} %: no offer that is on gives that share.", {
              owner: owner.name,
              percent,
            }),
          };
      }
    }
  }

  // An offer of which nothing on the site speaks.
  const words = allContents(ruleset).flatMap(({ content }) =>
    Object.values(content.fields).filter((text) => typeof text === "string"),
  );
  for (const offer of live) {
    const threshold = minor(offer.threshold);
    const told =
      usesOf({ offer: offer.id }, ruleset).length > 0 ||
      words.some((text) => text.includes(offer.label)) ||
      (threshold !== undefined &&
        words.some((text) =>
          amountsIn(text).some((item) => item.currency === currency && minor(item.amount) === threshold),
        ));
    if (!told)
      yield {
        finding: "untold-offer",
        about: { kind: "offer", id: offer.id },
        proof: "searched",
        says: t("The offer “{offer}” is not announced: no message mentions it.", { offer: offer.name }),
      };
  }

  const space = new Space(domain);
  /** A cart at exactly an offer's threshold to which it applies, and of which a rule says what it should not. */
  const boundaryWitness = (offer: Offer, threshold: number, rule: Rule, above: boolean): Visit | undefined => {
    const line = {
      sku: offer.scope?.skus?.[0] ?? "something",
      quantity: 1,
      unitPrice: threshold,
      ...(offer.scope?.categories?.[0] ? { category: offer.scope.categories[0] } : {}),
    };
    const solved = space.solve([
      holds(offer.rule),
      [{ rule, holds: !above }],
      holds({ signal: "cart.subtotal", op: "isKnown" }),
    ]);
    if (!solved.found) return undefined;
    const found: Visit = { ...solved.visit, cart: { lines: [line] } };
    const steps = evidence.decide(found).trace?.offers.find((item) => item.id === offer.id);
    return steps?.verdict === "applied" && evidence.holds(rule, found) === !above ? found : undefined;
  };

  // "More than 60" beside "from 60": exactly at the threshold one says yes and the other no.
  for (const { owner, rule } of allRules(ruleset)) {
    const found: Finding[] = [];
    walkRule(rule, (inner) => {
      if (inner === null || !isCondition(inner) || !/^cart\.(subtotal|total)$/.test(inner.signal)) return;
      if (!["gt", "lte", "between"].includes(inner.op)) return;
      const limits = inner.op === "between" ? [(inner.value as string[])[1]] : [inner.value as string];
      for (const limit of limits)
        for (const offer of live) {
          const threshold = minor(offer.threshold);
          if (threshold === undefined || minor(limit) !== threshold) continue;
          const witness = boundaryWitness(offer, threshold, rule, inner.op === "gt");
          if (!witness) continue;
          found.push({
            finding: "offer-boundary",
            ...at(owner),
            other: offer.id,
            proof: "exact",
            witness,
            says: t(
              "{owner}: at exactly {threshold} “{offer}” applies (at least), but its rule says {op} {threshold}.",
              {
                owner: owner.name,
                threshold: money(threshold),
                offer: offer.name,
                op: inner.op === "gt" ? t("more than") : t("at most"),
              },
            ),
          });
        }
    });
    yield* found;
  }

  // Offers that can never both apply.
  for (const [index, one] of live.entries())
    for (const two of live.slice(index + 1)) {
      if (one.rule === null || two.rule === null) continue;
      const both = (decision: Decision) =>
        [one, two].every((offer) => decision.cart?.adjustments.some((item) => item.offer === offer.id));
      if (evidence.find(both)) continue;
      const solved = space.solve([holds(one.rule), holds(two.rule)]);
      if (!solved.found)
        yield {
          finding: "offers-apart",
          about: { kind: "offer", id: two.id },
          other: one.id,
          proof: solved.proof,
          says:
            solved.proof === "exact"
              ? t("The offers “{name}” and “{two}” never apply together: their rules exclude each other.", {
                  name: one.name,
                  two: two.name,
                })
              : t("No visitor to whom both “{name}” and “{two}” apply was found in {tries} tries.", {
                  name: one.name,
                  two: two.name,
                  tries: (solved.tries + evidence.tries).toLocaleString(locale()),
                }),
        };
    }
}
