import type { OfferStep, Reckoning } from "../cart/offers";
import type { Missing } from "../content/format";
import type { SlotTrace, Trace, VariantTrace } from "./decision";
import type { Rule } from "../formats/rule";
import type { Marker, Popup, Redirect, Ruleset, Slot, Variant } from "../formats/ruleset";
import type { MarkerStep } from "../memory/markers";
import type { Memory } from "../memory/memory";
import type { RuleCompiler } from "../rules/compile";
import { evaluate, type RuleTrace } from "../rules/evaluate";
import type { Reading } from "../visit/reading";
import type { Target } from "./redirects";
import { isRemembered } from "./slots";

/** Writes down why a decision came out as it did, by the plain evaluator. Only made when a trace is asked for. */
export class Tracer {
  readonly #trace: Trace = { redirects: [], slots: [], popups: [], offers: [], markers: [], misfits: [] };
  constructor(
    readonly compiler: RuleCompiler,
    readonly ruleset: Ruleset,
  ) {}

  #rule(rule: Rule, r: Reading): RuleTrace {
    return evaluate(rule, r, this.compiler);
  }

  marker(marker: Marker, step: MarkerStep | undefined, r: Reading): void {
    this.#trace.markers.push({
      id: marker.id,
      verdict: step?.verdict ?? "not kept: no consent",
      count: step?.count ?? 0,
      gain: this.#rule(marker.gain ?? null, r),
      lose: marker.lose === null ? null : this.#rule(marker.lose, r),
    });
  }

  redirect(redirect: Redirect, r: Reading, target: Target | undefined, winner: Redirect | undefined): void {
    const rule = this.#rule(redirect.rule, r);
    const say = (verdict: Trace["redirects"][number]["verdict"], reason?: string) =>
      this.#trace.redirects.push({ id: redirect.id, verdict, ...(reason ? { reason } : {}), rule });
    if (!redirect.on) say("off");
    else if (rule.verdict !== "true") say(rule.verdict === "false" ? "rule false" : "rule unknown");
    else if (winner) say("beaten", `by ${winner.id}`);
    else if (target && !("location" in target)) say(target.verdict, target.reason);
    else say("applies");
  }

  /** `chosen` is undefined where the slot is not on the page; `pins` holds the pinned variant, if any. */
  slot(
    slot: Slot,
    r: Reading,
    memory: Memory | undefined,
    at: number,
    chosen: readonly Variant[] | undefined,
    missing: (Missing & { variant: string | null })[],
    pins: readonly (string | null | undefined)[],
  ): void {
    const pages = this.#rule(slot.pages, r);
    const winners = chosen ?? [];
    const full = winners.length >= slot.take;
    const variants = slot.variants.map((variant): VariantTrace => {
      const rule = this.#rule(variant.rule, r);
      const remembered = isRemembered(variant, memory, at);
      const base = { id: variant.id, rule, ...(remembered ? { remembered: true as const } : {}) };
      if (!variant.on) return { ...base, verdict: "off" };
      if (winners.includes(variant)) return { ...base, verdict: rule.verdict === "true" ? "shown" : "remembered" };
      if (chosen && full && (rule.verdict === "true" || remembered))
        return { ...base, verdict: "beaten", by: winners.map((winner) => winner.id) };
      // Nothing else keeps a variant that is true from a place that is free.
      if (chosen && (rule.verdict === "true" || remembered)) return { ...base, verdict: "held out" };
      if (rule.verdict === "true" || (remembered && !chosen)) return { ...base, verdict: "not on this page" };
      return { ...base, verdict: rule.verdict === "unknown" ? "rule unknown" : "rule false" };
    });
    const trace: SlotTrace = {
      id: slot.id,
      onPage: pages.verdict,
      pages,
      variants,
      fallback: !chosen ? "not on this page" : winners.length === 0 ? "shown" : "not needed",
      missing,
    };
    if (pins.length > 0) {
      for (const variant of variants) if (variant.id === pins[0]) variant.verdict = "pinned";
    }
    this.#trace.slots.push(trace);
  }

  popup(popup: Popup, r: Reading, held: string | undefined, winner: Popup | undefined): void {
    const pages = this.#rule(popup.pages, r);
    const rule = this.#rule(popup.rule, r);
    const base = { id: popup.id, pages, rule };
    const { popups } = this.#trace;
    if (!popup.on) popups.push({ ...base, verdict: "off" });
    else if (pages.verdict !== "true") popups.push({ ...base, verdict: "not on this page" });
    else if (rule.verdict !== "true")
      popups.push({ ...base, verdict: rule.verdict === "false" ? "rule false" : "rule unknown" });
    else if (held) popups.push({ ...base, verdict: "held back", reason: held });
    else if (winner) popups.push({ ...base, verdict: "beaten", by: winner.id });
    else popups.push({ ...base, verdict: "shown" });
  }

  finish(r: Reading, reckoning: Reckoning | null): Trace {
    const steps = new Map<string, OfferStep>(reckoning?.steps.map((step) => [step.offer.id, step]));
    for (const offer of this.ruleset.offers) {
      const step = steps.get(offer.id);
      this.#trace.offers.push({
        id: offer.id,
        verdict: step?.verdict ?? "not applicable",
        ...(step ? { qualifying: step.qualifying, discount: step.discount, toGo: step.toGo } : {}),
        rule: this.#rule(offer.rule, r),
      });
    }
    this.#trace.misfits.push(...r.misfits);
    return this.#trace;
  }
}
