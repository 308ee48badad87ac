/** A visit of several steps: this page first, then that one, three days later another. */
import { t } from "../messages/t";
import type { Engine } from "../decision/engine";
import type { Decision } from "../decision/decision";
import type { Ruleset } from "../formats/ruleset";
import type { Step } from "../formats/step";
import { parseInstant, type Visit } from "../formats/visit";
import { pastOf } from "../memory/made";
import { onPage, type PageFacts } from "./pages";
import { readablePath } from "../visit/url";

/** One page view of a journey, with what it got. */
export interface Played {
  visit: Visit;
  decision: Decision;
  /** Which step it is of; 0 is the lens itself. A redirect makes further page views of the same step. */
  step: number;
}

/** At most so many redirects are followed in one step: what browsers bear, common practice. */
export const mostHops = 10;

const pathOf = (url: string): string => readablePath(new URL(url).pathname);

/**
 * Plays a journey as a browser would: what a decision gives to remember goes along to the next page view, redirects within the
 * site are followed, and pages after the first come from the site itself.
 * @param facts what the site tells of its pages
 */
export function play(engine: Engine, start: Visit, steps: readonly Step[], facts: PageFacts): Played[] {
  const { origin } = engine.ruleset.site;
  const out: Played[] = [];
  let memory: unknown = start.memory;
  let at = parseInstant(start.at) as number;
  let url = start.url;
  let referrer = start.referrer;
  const view = (step: number) => {
    for (let hop = 0; hop <= mostHops; hop++) {
      const { memory: _memory, referrer: _referrer, ...rest } = start;
      const moved = {
        ...rest,
        at: new Date(at).toISOString(),
        url,
        ...(referrer ? { referrer } : {}),
        ...(memory ? { memory } : {}),
      } as Visit;
      // Of a page that the site is not known to have, a visit that stands on it tells itself.
      const visit = url === start.url && !facts.has(pathOf(url)) ? moved : onPage(moved, facts);
      const decision = engine.decide(visit, { trace: true });
      out.push({ visit, decision, step });
      memory = decision.memory ?? undefined;
      const { redirect } = decision;
      if (!redirect || new URL(redirect.location).origin !== new URL(origin).origin) return;
      url = redirect.location;
    }
  };
  view(0);
  steps.forEach((step, index) => {
    at += step.after * 60_000;
    referrer = url;
    url = new URL(step.path, origin).href;
    view(index + 1);
  });
  return out;
}

/** A time after the step before, in words: "at once", "3 days later". */
export function afterWords(minutes: number): string {
  if (minutes === 0) return t("at once");
  if (minutes % 1440 === 0)
    return t("{count, plural, one {# day later} other {# days later}}", { count: minutes / 1440 });
  if (minutes % 60 === 0)
    return t("{count, plural, one {# hour later} other {# hours later}}", { count: minutes / 60 });
  return t("{count, plural, one {# minute later} other {# minutes later}}", { count: minutes });
}

/** What a page view brings, in words: what is shown, markers gained and lost, a pop-up, being sent on. */
export function happenings(
  { visit, decision, step }: Played,
  before: Played | undefined,
  ruleset: Ruleset,
  letter: (place: number) => string,
): string[] {
  if (decision.redirect) return [t("sent on to {location}", { location: decision.redirect.location })];
  const out: string[] = [];
  for (const slot of ruleset.slots) {
    const trace = decision.trace?.slots.find((item) => item.id === slot.id);
    const names = (decision.slots[slot.id] ?? []).flatMap((item) => {
      const place = slot.variants.findIndex((variant) => variant.id === item.variant);
      if (place < 0) return [];
      const remembered = trace?.variants.find((one) => one.id === item.variant)?.verdict === "remembered";
      return [`${letter(place)} ${slot.variants[place]?.name}${remembered ? t(", remembered") : ""}`];
    });
    if (names.length > 0) out.push(`${slot.name}: ${names.join(", ")}`);
  }
  const past = pastOf(visit.memory, parseInstant(visit.at) as number).markers;
  const had = before?.decision.markers ?? Object.keys(past).filter((id) => past[id]?.held);
  for (const { id, name } of ruleset.markers) {
    const [held, now] = [had.includes(id), decision.markers.includes(id)];
    if (held !== now) out.push(t("{now} the marker “{name}”", { now: now ? t("gains") : t("loses"), name }));
  }
  const popup = (id: string | undefined) => ruleset.popups.find((item) => item.id === id)?.name ?? id;
  const held = decision.trace?.popups.find((item) => item.verdict === "held back");
  if (decision.popup) out.push(t("pop-up: {popup}", { popup: popup(decision.popup.id) }));
  else if (held) out.push(t("pop-up {held} held back: {reason}", { held: popup(held.id), reason: held.reason }));
  if (step === 0 && visit.consent !== true) out.push(t("has not agreed: nothing is remembered from step to step"));
  return out;
}
