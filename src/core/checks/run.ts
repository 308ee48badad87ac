/** Saved expectations, run against an engine. */
import { t } from "../messages/t";
import { formatMoney } from "../money/currency";
import type { Engine } from "../decision/engine";
import type { Check, Expectation } from "../formats/check";
import type { Decision } from "../decision/decision";
import type { Ruleset } from "../formats/ruleset";
import { play, type Played } from "../lens/journey";
import { readablePath } from "../visit/url";

export interface CheckResult {
  passed: boolean;
  /** What came instead, in words. */
  found: string;
}

const variantName = (ruleset: Ruleset, slot: string, variant: string | null): string => {
  if (variant === null) return t("the fallback");
  const found = ruleset.slots.find((item) => item.id === slot)?.variants.find((item) => item.id === variant);
  return found ? `“${found.name}”` : variant;
};
const slotName = (ruleset: Ruleset, slot: string): string =>
  ruleset.slots.find((item) => item.id === slot)?.name ?? slot;

/** An expectation in words: "Home hero shows “Repotting clinic”". */
export function expectationText(expect: Expectation, ruleset: Ruleset): string {
  if ("redirect" in expect) return t("is sent to {redirect}", { redirect: expect.redirect });
  if ("total" in expect)
    return t("pays {formatMoney}", {
      formatMoney: formatMoney(expect.total, ruleset.site.currency, ruleset.site.language),
    });
  if ("text" in expect)
    return t("{slotName} says “{text}”", { slotName: slotName(ruleset, expect.slot), text: expect.text });
  return t("{slotName} shows {variantName}", {
    slotName: slotName(ruleset, expect.slot),
    variantName: variantName(ruleset, expect.slot, expect.variant),
  });
}

/** All texts of the blocks that a slot shows. */
const textsOf = (decision: Decision, slot: string): string[] =>
  (decision.slots[slot] ?? []).flatMap((item) =>
    Object.values(item.content?.fields ?? {}).filter((value) => typeof value === "string"),
  );

/** Compares what a decision holds with what a check expects. */
export function judge(expect: Expectation, decision: Decision, ruleset: Ruleset): CheckResult {
  if ("redirect" in expect) {
    const location = decision.redirect?.location;
    return {
      passed: location === expect.redirect,
      found: location === undefined ? t("is sent nowhere") : t("is sent to {location}", { location }),
    };
  }
  if (decision.redirect)
    return { passed: false, found: t("is sent to {location}", { location: decision.redirect.location }) };
  if ("total" in expect) {
    const total = decision.cart?.total;
    return {
      passed: total === expect.total,
      found:
        total === undefined
          ? t("no cart is told")
          : t("pays {formatMoney}", { formatMoney: formatMoney(total, ruleset.site.currency, ruleset.site.language) }),
    };
  }
  const shown = decision.slots[expect.slot];
  if (!shown)
    return { passed: false, found: t("{slotName} is not on this page", { slotName: slotName(ruleset, expect.slot) }) };
  if ("text" in expect) {
    const texts = textsOf(decision, expect.slot);
    return {
      passed: texts.some((text) => text.includes(expect.text)),
      found:
        texts.length === 0
          ? t("says nothing")
          : t("says {texts}", { texts: texts.map((text) => `“${text}”`).join(", ") }),
    };
  }
  return {
    passed: shown.some((item) => item.variant === expect.variant),
    found: t("shows {shown}", {
      shown: shown.map((item) => variantName(ruleset, expect.slot, item.variant)).join(", "),
    }),
  };
}

/** The page view of which a check expects something: its visit, or the last of its steps, with all that is remembered by then. */
export function lastView({ visit, steps, expect }: Check, engine: Engine): Pick<Played, "visit" | "decision"> {
  if (steps.length === 0) return { visit, decision: engine.decide(visit) };
  const facts = new Map(steps.map(({ path, page }) => [readablePath(new URL(path, visit.url).pathname), page]));
  const first = readablePath(new URL(visit.url).pathname);
  if (!facts.get(first)) facts.set(first, visit.page);
  const played = play(engine, visit, steps, facts).filter(({ step }) => step === steps.length);
  const view = "redirect" in expect ? played[0] : played.at(-1);
  return view as Played;
}

/** Runs one check. */
export const runCheck = (check: Check, engine: Engine): CheckResult =>
  judge(check.expect, lastView(check, engine).decision, engine.ruleset);

/**
 * In what a page that a site answered differs from a decision; undefined: in nothing.
 * @param slots the variants that stand in the page, by slot; "" is the fallback
 */
export function siteDiffers(
  decision: Decision,
  slots: Readonly<Record<string, readonly string[]>>,
): string | undefined {
  for (const [slot, found] of Object.entries(slots)) {
    const wanted = decision.slots[slot]?.map((item) => item.variant ?? "");
    const said = (list: readonly string[]) => list.map((id) => id || t("the fallback")).join(", ");
    if (wanted && wanted.join(" ") !== found.join(" "))
      return t("{slot} shows {found}, the engine says {wanted}", { slot, found: said(found), wanted: said(wanted) });
  }
  const empty = Object.keys(slots).length === 0 && Object.keys(decision.slots).length > 0;
  return empty ? t("no slot was found in the page") : undefined;
}
