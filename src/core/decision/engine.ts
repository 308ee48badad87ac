import { ContentFiller, type Missing } from "../content/format";
import type { Decision, Shown } from "./decision";
import type { Arm, Content, Popup, Redirect, Ruleset, Slot, Variant } from "../formats/ruleset";
import type { Goal } from "../formats/goal";
import { put } from "../formats/read";
import type { Visit } from "../formats/visit";
import { writeMemory } from "../memory/memory";
import { RuleCompiler, type Judge } from "../rules/compile";
import { RuleContext } from "../rules/condition";
import { YES } from "../rules/truth";
import { Reading, readingRules, type DeviceReader } from "../visit/reading";
import type { PlaceLookup } from "../visit/places";
import { drawArm } from "./arms";
import { readyGoals } from "./goals";
import { isHeldOut } from "./holdout";
import { countPopup, heldBack } from "./popups";
import { redirectTarget, type Target } from "./redirects";
import { preparing, type Prepared } from "./prepare";
import { readySlot, type ReadySlot } from "./slots";
import { Tracer } from "./trace";
import { withoutRules } from "./without-rules";

export interface EngineOptions {
  /** The IP-to-place look-up; without one, an address has no place. */
  lookup?: PlaceLookup;
  /** A reader of user agents that remembers equal ones. */
  device?: DeviceReader;
  /** Whether a redirect may lead to a host (in lower case, with its port); all may without it. */
  mayLeadTo?: (host: string) => boolean;
}
export interface DecideOptions {
  trace?: boolean;
  /**
   * Variants shown whatever the rules say, for looking while editing: slot id → variant id, "variant/arm", or null for the
   * fallback.
   */
  pins?: Readonly<Record<string, string | null>>;
  /** A pop-up that opens whatever the rules say: its id, or "popup/arm"; null: none does. */
  popup?: string | null;
  /** Whether a pop-up counts as soon as it is decided (as without this), or only once it has opened: see `countOpened`. */
  countPopups?: "decided" | "opened";
  /** Whether visitors of the holdout see no variant and no pop-up: where visitors are served, and nowhere else. */
  holdout?: boolean;
}

/** A ruleset made ready to decide visits. Same inputs, same answer: it reads no clock and keeps nothing of a visit. */
export interface Engine {
  readonly ruleset: Ruleset;
  decide(visit: Visit, options?: DecideOptions): Decision;
  /** The reading of a visit as rules see it: history, markers and cart worked out. */
  read(visit: Visit): Reading;
  /** The goals that a visit reaches by looking at its page, and those that a click or a form on it reaches. */
  goals(visit: Visit): Goal[];
  /** What a visit gets if deciding it fails: the page's fallbacks, the cart without offers, memory as it came in. */
  withoutRules(visit: Visit): Decision;
}

/** Makes a ruleset ready. It must have passed `readRuleset`. */
export function createEngine(ruleset: Ruleset, options: EngineOptions = {}): Engine {
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  const compile = (rule: Parameters<RuleCompiler["compile"]>[0]) => compiler.compile(rule);
  const filler = new ContentFiller(ruleset);
  const prepare = preparing(ruleset, compiler, options);
  const slots = ruleset.slots.map((slot) => readySlot(slot, compiler));
  const redirects = ruleset.redirects.map((redirect) => ({ redirect, judge: compile(redirect.rule) }));
  const goals = readyGoals(ruleset, compiler);
  const popups = ruleset.popups.map((popup) => ({ popup, pages: compile(popup.pages), judge: compile(popup.rule) }));

  function redirectOf(steps: Prepared, tracer?: Tracer): { redirect: Redirect; location: string } | undefined {
    let taken: { redirect: Redirect; location: string } | undefined;
    for (const { redirect, judge } of redirects) {
      let target: Target | undefined;
      if (!taken && redirect.on && judge(steps.reading) === YES) {
        target = redirectTarget(redirect, steps.reading, steps.memory, options.mayLeadTo);
        if ("location" in target) taken = { redirect, location: target.location };
      }
      if (!tracer) {
        if (taken) break;
      } else
        tracer.redirect(redirect, steps.reading, target, taken?.redirect === redirect ? undefined : taken?.redirect);
    }
    return taken;
  }

  function contentOf(content: Content | null, slot: Slot, r: Reading, missing: Missing[] | undefined) {
    return content ? filler.fill(content, r, slot.fallback, missing) : null;
  }

  const isOut = ({ holdout }: DecideOptions, { consent, visitorId }: Visit): boolean =>
    holdout === true && consent === true && isHeldOut(ruleset.site.holdout, visitorId);

  function slotOf(ready: ReadySlot, steps: Prepared, options: DecideOptions, tracer?: Tracer): Shown[] | undefined {
    const { slot } = ready;
    const { reading, memory } = steps;
    const onPage = ready.pages(reading) === YES;
    if (!onPage) {
      tracer?.slot(slot, reading, memory, steps.at, undefined, [], []);
      return undefined;
    }
    if (!tracer && !memory && !options.pins) return plainly(ready, reading);
    const { at } = steps;
    const pinned = options.pins && Object.hasOwn(options.pins, slot.id) ? options.pins[slot.id] : undefined;
    const chosen = isOut(options, reading.visit) ? [] : ready.choose(reading, memory, at);
    const [pinnedId, pinnedArm] = pinned?.split("/") ?? [];
    const pin = pinnedId === undefined ? undefined : slot.variants.find((variant) => variant.id === pinnedId);
    const showing = pinned === null ? [] : pin ? withPin(chosen, pin, slot) : chosen;
    const missing: (Missing & { variant: string | null })[] = [];
    const fill = (variant: Variant | null, content: Content | null) => {
      const own: Missing[] = [];
      const filled = contentOf(content, slot, reading, own);
      missing.push(...own.map((item) => ({ ...item, variant: variant?.id ?? null })));
      return filled;
    };
    const shown: Shown[] = showing.map((variant) => {
      const arm = armOf(variant, pin ? pinnedArm : undefined, reading.visit.visitorId);
      const content = arm.content ?? (slot.take > 1 ? null : slot.fallback);
      return { variant: variant.id, arm: arm.id, content: fill(variant, content) };
    });
    if (showing.length === 0) shown.push({ variant: null, arm: null, content: fill(null, slot.fallback) });
    tracer?.slot(slot, reading, memory, at, chosen, missing, pinned === undefined ? [] : [pinnedId ?? null]);
    if (memory && pinned === undefined)
      for (const variant of showing)
        if (variant.rememberDays !== undefined) memory.variants.set(variant.id, { shown: at });
    return shown;
  }

  /** What a slot shows to whom nothing is remembered of, where nothing is pinned or written down: the usual case. */
  function plainly({ slot, choose }: ReadySlot, reading: Reading): Shown[] {
    const showing = choose(reading, undefined, 0);
    const fallback = slot.take > 1 ? null : slot.fallback;
    if (showing.length === 0)
      return [{ variant: null, arm: null, content: contentOf(slot.fallback, slot, reading, undefined) }];
    return showing.map((variant) => {
      const arm = drawArm(variant.id, variant.arms, reading.visit.visitorId);
      return {
        variant: variant.id,
        arm: arm.id,
        content: contentOf(arm.content ?? fallback, slot, reading, undefined),
      };
    });
  }

  function popupOf(steps: Prepared, options: DecideOptions, tracer?: Tracer): Popup | undefined {
    const { popup: asked, countPopups } = options;
    if (isOut(options, steps.reading.visit)) return undefined;
    const pinned = asked?.split("/")[0];
    let opened = pinned === undefined ? undefined : ruleset.popups.find((popup) => popup.id === pinned);
    if (opened && !tracer) return opened;
    for (const { popup, pages, judge } of popups) {
      const wanted = popup.on && isTrue(pages, steps) && isTrue(judge, steps);
      const held = wanted && !opened ? heldBack(popup, ruleset, steps.memory, steps.at) : undefined;
      const opens = wanted && !opened && held === undefined;
      tracer?.popup(popup, steps.reading, held, opens ? undefined : opened);
      if (opens) opened = popup;
      if (opened && !tracer) break;
    }
    if (opened && steps.memory && asked === undefined && countPopups !== "opened")
      countPopup(opened, ruleset, steps.memory, steps.at);
    return asked === null ? undefined : opened;
  }

  return {
    ruleset,
    read: (visit) => prepare(visit).reading,
    goals: (visit) => (ruleset.goals.length === 0 ? [] : goals(prepare(visit).reading)),
    withoutRules: (visit) => withoutRules(slots, visit, filler, new Reading(visit, readingRules(ruleset))),
    decide(visit, decide = {}) {
      const tracer = decide.trace ? new Tracer(compiler, ruleset) : undefined;
      const steps = prepare(visit, tracer);
      const { reading } = steps;
      const redirect = redirectOf(steps, tracer);
      const traced = (decision: Decision): Decision => {
        if (tracer) decision.trace = tracer.finish(reading, steps.reckoning);
        return decision;
      };
      if (redirect) {
        const { id, status } = redirect.redirect;
        steps.before?.redirects.set(id, { visit: reading.history?.visits ?? 0, used: steps.at });
        return traced({
          redirect: { id, status, location: redirect.location },
          slots: {},
          popup: null,
          cart: null,
          markers: [],
          memory: steps.before ? writeMemory(steps.before) : null,
        });
      }
      const answers: Record<string, Shown[]> = {};
      for (const ready of slots) {
        const shown = slotOf(ready, steps, decide, tracer);
        if (shown) put(answers, ready.slot.id, shown);
      }
      const [pinnedPopup, pinnedArm] = decide.popup?.split("/") ?? none;
      const popup = popups.length > 0 ? popupOf(steps, decide, tracer) : undefined;
      const arm = popup && armOf(popup, popup.id === pinnedPopup ? pinnedArm : undefined, visit.visitorId);
      const reckoning = visit.cart ? steps.reckoning : null;
      return traced({
        redirect: null,
        slots: answers,
        popup:
          popup && arm
            ? {
                id: popup.id,
                arm: arm.id,
                opensAfter: popup.opensAfter,
                size: popup.size,
                content: arm.content ? filler.fill(arm.content, reading, null) : null,
              }
            : null,
        cart: reckoning && {
          subtotal: reckoning.subtotal,
          adjustments: reckoning.steps
            .filter((step) => step.verdict === "applied")
            .map(({ offer, discount }) => ({
              offer: offer.id,
              label: offer.label,
              amount: discount === 0 ? 0 : -discount,
            })),
          freeDelivery: reckoning.freeDelivery,
          total: reckoning.total,
          toGo: Object.fromEntries(reckoning.toGo),
        },
        markers: steps.markers,
        memory: steps.memory ? writeMemory(steps.memory) : null,
      });
    },
  };
}

const none: readonly string[] = [];

/** The arm that is drawn, or the pinned one. */
const armOf = (owner: Pick<Variant, "id" | "arms">, pinned: string | undefined, visitorId: string | undefined): Arm =>
  owner.arms.find((arm) => arm.id === pinned) ?? drawArm(owner.id, owner.arms, visitorId);

/** What is shown with one variant pinned: where several are shown, the others stay around it. */
function withPin(chosen: readonly Variant[], pin: Variant, { variants, take }: Slot): readonly Variant[] {
  if (chosen.includes(pin)) return chosen;
  const others = chosen.slice(0, take - 1);
  return variants.filter((variant) => variant === pin || others.includes(variant));
}

const isTrue = (judge: Judge, steps: Prepared): boolean => judge(steps.reading) === YES;
