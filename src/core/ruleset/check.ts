import { t } from "../messages/t";
import { toMinor } from "../money/currency";
import { kindOfSignal } from "../collect/sources";
import { checkContent } from "../content/check";
import { templateProblem } from "../content/template";
import { problemList, type Problem } from "../formats/problem";
import { readBy, type Read } from "../formats/read";
import { rulesetSchema, type Arm, type Ruleset } from "../formats/ruleset";
import { checkPlaceEntry, checkRule, signalsOf, type Forbidden } from "../rules/check";
import { traitsOf } from "../visit/signals";
import { parseBlock } from "../visit/address";

type Path = readonly PropertyKey[];

/**
 * Reads a ruleset: its shape by the schema, then its meaning. Every problem is at its path.
 * @param bounded whether rules may be too large: what is live already is served, however large it is
 */
export function readRuleset(input: unknown, bounded = true): Read<Ruleset> {
  const read = readBy(rulesetSchema, input);
  if (!read.ok) return read;
  const problems = checkRuleset(read.value, bounded);
  return problems.length === 0 ? read : { ok: false, problems };
}

export const markerForbidden: Forbidden = (signal) =>
  signal.startsWith("marker.") || traitsOf(signal)?.byOffers
    ? t("a marker’s rules may not use {signal}", { signal })
    : undefined;
export const offerForbidden: Forbidden = (signal) =>
  traitsOf(signal)?.byOffers ? t("an offer’s rule may not use {signal}", { signal }) : undefined;

/** What is wrong with a ruleset whose shape is right (docs/engine.md, sections 3 to 12). */
export function checkRuleset(ruleset: Ruleset, bounded = true): Problem[] {
  const { problems, report } = problemList();
  const rule = (value: Parameters<typeof checkRule>[0], path: Path, forbidden?: Forbidden) =>
    problems.push(...checkRule(value, ruleset, path, forbidden, bounded));

  const unique = (items: readonly { id: string }[], path: Path, what: string) => {
    const seen = new Set<string>();
    items.forEach((item, index) => {
      if (seen.has(item.id))
        report([...path, index, "id"], "twice", t('there is another {what} "{id}"', { what, id: item.id }));
      seen.add(item.id);
    });
  };
  const kinds = {
    placeLists: t("place list"),
    audiences: "audience",
    markers: "marker",
    blockTypes: t("block type"),
    slots: "slot",
    popups: "pop-up",
    offers: "offer",
    redirects: "redirect",
    goals: "goal",
  } as const;
  for (const [key, what] of Object.entries(kinds)) unique(ruleset[key as keyof typeof kinds], [key], what);

  const names = new Set<string>();
  ruleset.dataFields.forEach((field, index) => {
    const key = `${field.signal}.${field.name}`;
    if (names.has(key)) report(["dataFields", index, "name"], "twice", t('there is another field "{key}"', { key }));
    names.add(key);
  });
  ruleset.collect.forEach(({ signal, decimal }, index) => {
    const kind = kindOfSignal(signal, ruleset);
    if (!kind)
      report(
        ["collect", index, "signal"],
        "not-here",
        t(
          '"{signal}" cannot be read from pages: it is neither a fact of the page, nor the cart’s value or count, nor a declared field',
          { signal },
        ),
      );
    else if (decimal && kind !== "number" && kind !== "money")
      report(["collect", index, "decimal"], "not-here", t("is for numbers and money alone"));
    if (signal === "cart.count" && !ruleset.collect.some((other) => other.signal === "cart.subtotal"))
      report(["collect", index, "signal"], "missing", t("a cart is known by its value: say where that stands, too"));
  });
  ruleset.blockTypes.forEach((type, index) => unique(type.fields, ["blockTypes", index, "fields"], "field"));

  ruleset.placeLists.forEach((list, index) =>
    list.places.forEach((entry, at) => {
      for (const { path, code, problem } of checkPlaceEntry(entry, {}))
        report(["placeLists", index, "places", at, ...path], code, problem);
    }),
  );

  ruleset.audiences.forEach((audience, index) => {
    rule(audience.rule, ["audiences", index, "rule"]);
    if (inCircle(audience.id, ruleset))
      report(
        ["audiences", index, "rule"],
        "circle",
        t('the audience "{audience}" leads back to itself', { audience: audience.name }),
      );
  });

  const dates = (item: object, from: string, until: string, path: Path) => {
    const [start, end] = [(item as Record<string, unknown>)[from], (item as Record<string, unknown>)[until]];
    if (typeof start === "string" && typeof end === "string" && start >= end)
      report([...path, until], "order", t("must be later than {from}", { from }));
  };

  ruleset.markers.forEach((marker, index) => {
    const path = ["markers", index];
    if (marker.gain === undefined || marker.gain === null)
      report([...path, "gain"], "missing", t("is missing: say which page views gain the marker"));
    else rule(marker.gain, [...path, "gain"], markerForbidden);
    rule(marker.lose, [...path, "lose"], markerForbidden);
    dates(marker, "setFrom", "setUntil", path);
  });

  const arms = (list: readonly Arm[], path: Path, own: boolean) => {
    unique(list, path, "arm");
    const hundredths = list.map((arm) => Math.round(arm.weight * 100));
    list.forEach((arm, index) => {
      if (Math.abs(arm.weight * 100 - (hundredths[index] as number)) > 1e-6)
        report([...path, index, "weight"], "range", t("must be in steps of 0.01"));
      if (arm.content) problems.push(...checkContent(arm.content, ruleset, [...path, index, "content"], own));
    });
    if (hundredths.reduce((sum, one) => sum + one, 0) !== 10_000)
      report(path, "sum", t("has weights that do not add up to 100"));
  };

  const variants = new Set<string>();
  ruleset.slots.forEach((slot, index) => {
    const path = ["slots", index];
    rule(slot.pages, [...path, "pages"]);
    slot.variants.forEach((variant, at) => {
      const here = [...path, "variants", at];
      if (variants.has(variant.id))
        report([...here, "id"], "twice", t('there is another variant "{variant}"', { variant: variant.id }));
      variants.add(variant.id);
      rule(variant.rule, [...here, "rule"]);
      arms(variant.arms, [...here, "arms"], slot.take === 1);
    });
    if (slot.fallback) problems.push(...checkContent(slot.fallback, ruleset, [...path, "fallback"], slot.take === 1));
  });

  ruleset.popups.forEach((popup, index) => {
    rule(popup.pages, ["popups", index, "pages"]);
    rule(popup.rule, ["popups", index, "rule"]);
    arms(popup.arms, ["popups", index, "arms"], false);
  });

  const { currency } = ruleset.site;
  const amount = (text: string, path: Path) => {
    const minor = toMinor(text, currency);
    if (minor === undefined)
      report(path, "range", t("has more decimals than {currency}, or is too large", { currency }));
    else if (minor <= 0) report(path, "range", t("must be above 0"));
  };
  if (ruleset.site.largestValue !== undefined) amount(ruleset.site.largestValue, ["site", "largestValue"]);
  ruleset.offers.forEach((offer, index) => {
    const path = ["offers", index];
    rule(offer.rule, [...path, "rule"], offerForbidden);
    if (offer.threshold !== undefined) amount(offer.threshold, [...path, "threshold"]);
    if ("amount" in offer.reward) amount(offer.reward.amount, [...path, "reward", "amount"]);
    if (
      "percent" in offer.reward &&
      Math.abs(offer.reward.percent * 100 - Math.round(offer.reward.percent * 100)) > 1e-6
    )
      report([...path, "reward", "percent"], "range", t("must have at most two decimals"));
    if (offer.scope && !offer.scope.categories && !offer.scope.skus)
      report([...path, "scope"], "empty", t("must name categories or skus"));
    dates(offer, "from", "until", path);
  });

  ruleset.goals.forEach((goal, index) => {
    const path = ["goals", index];
    rule(goal.pages, [...path, "pages"]);
    if (goal.way === "page" && goal.pages === null)
      report([...path, "pages"], "missing", t("is missing: say which page views reach the goal"));
    if (goal.way === "page" ? goal.at !== undefined : goal.at === undefined)
      report(
        [...path, "at"],
        goal.way === "page" ? "not-here" : "missing",
        goal.way === "page" ? t("is for clicks and forms alone") : t("is missing: say which part of the page"),
      );
    if (goal.way === "form" && goal.at?.within)
      report(
        [...path, "at"],
        "not-here",
        t("lies in a part that draws itself apart, whose forms tell nobody: take a click on its button"),
      );
    if (goal.value !== undefined) amount(goal.value, [...path, "value"]);
  });

  ruleset.redirects.forEach((redirect, index) => {
    const path = ["redirects", index];
    rule(redirect.rule, [...path, "rule"]);
    const wrong = templateProblem(redirect.to);
    if (wrong) report([...path, "to"], "form", wrong);
    redirect.exemptAddresses.forEach((text, at) => {
      const block = parseBlock(text);
      if ("problem" in block) report([...path, "exemptAddresses", at], "form", block.problem);
    });
  });
  return problems;
}

function inCircle(id: string, ruleset: Ruleset): boolean {
  const reached = new Set<string>();
  const open = [id];
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    const rule = ruleset.audiences.find((item) => item.id === next)?.rule ?? null;
    for (const named of audiencesIn(rule)) {
      if (named === id) return true;
      if (!reached.has(named)) {
        reached.add(named);
        open.push(named);
      }
    }
  }
  return false;
}

/** The audiences that a rule names itself. */
export function audiencesIn(rule: Parameters<typeof checkRule>[0]): string[] {
  if (rule === null || "signal" in rule) return [];
  if ("audience" in rule) return [rule.audience];
  return Object.values(rule).flatMap((rules) => (rules as Parameters<typeof checkRule>[0][]).flatMap(audiencesIn));
}

export { signalsOf };
