/** Saved expectations, run against an engine. */
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
  if (variant === null) return "the fallback";
  const found = ruleset.slots.find((item) => item.id === slot)?.variants.find((item) => item.id === variant);
  return found ? `“${found.name}”` : variant;
};
const slotName = (ruleset: Ruleset, slot: string): string =>
  ruleset.slots.find((item) => item.id === slot)?.name ?? slot;

/** An expectation in words: "Home hero shows “Repotting clinic”". */
export function expectationText(expect: Expectation, ruleset: Ruleset): string {
  if ("redirect" in expect) return `is sent to ${expect.redirect}`;
  if ("total" in expect) return `pays ${formatMoney(expect.total, ruleset.site.currency, ruleset.site.language)}`;
  if ("text" in expect) return `${slotName(ruleset, expect.slot)} says “${expect.text}”`;
  return `${slotName(ruleset, expect.slot)} shows ${variantName(ruleset, expect.slot, expect.variant)}`;
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
      found: location === undefined ? "is sent nowhere" : `is sent to ${location}`,
    };
  }
  if (decision.redirect) return { passed: false, found: `is sent to ${decision.redirect.location}` };
  if ("total" in expect) {
    const total = decision.cart?.total;
    return {
      passed: total === expect.total,
      found:
        total === undefined
          ? "no cart is told"
          : `pays ${formatMoney(total, ruleset.site.currency, ruleset.site.language)}`,
    };
  }
  const shown = decision.slots[expect.slot];
  if (!shown) return { passed: false, found: `${slotName(ruleset, expect.slot)} is not on this page` };
  if ("text" in expect) {
    const texts = textsOf(decision, expect.slot);
    return {
      passed: texts.some((text) => text.includes(expect.text)),
      found: texts.length === 0 ? "says nothing" : `says ${texts.map((text) => `“${text}”`).join(", ")}`,
    };
  }
  return {
    passed: shown.some((item) => item.variant === expect.variant),
    found: `shows ${shown.map((item) => variantName(ruleset, expect.slot, item.variant)).join(", ")}`,
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
    const said = (list: readonly string[]) => list.map((id) => id || "the fallback").join(", ");
    if (wanted && wanted.join(" ") !== found.join(" "))
      return `${slot} shows ${said(found)}, the engine says ${said(wanted)}`;
  }
  const empty = Object.keys(slots).length === 0 && Object.keys(decision.slots).length > 0;
  return empty ? "no slot was found in the page" : undefined;
}
