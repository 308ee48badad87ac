/** A visit of several steps: this page first, then that one, three days later another. */
import { z } from "zod";
import type { Engine } from "../decision/engine";
import type { Decision } from "../formats/decision";
import { parseInstant, type Visit } from "../formats/visit";
import { onPage, type PageFacts } from "./pages";
import { readablePath } from "./url";

export const stepSchema = z.strictObject({
  /** Path and query of the page, from "/" on. */
  path: z.string().startsWith("/").max(2000),
  /** Minutes after the step before. */
  after: z.number().min(0).max(5_256_000),
});
export type Step = z.output<typeof stepSchema>;

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
  const words = (count: number, unit: string) => `${count} ${unit}${count === 1 ? "" : "s"} later`;
  if (minutes === 0) return "at once";
  if (minutes % 1440 === 0) return words(minutes / 1440, "day");
  if (minutes % 60 === 0) return words(minutes / 60, "hour");
  return words(minutes, "minute");
}
