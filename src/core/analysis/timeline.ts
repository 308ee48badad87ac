import type { Engine } from "../decision/engine";
import { groupOf, isCondition, type Rule } from "../formats/rule";
import type { Decision } from "../decision/decision";
import type { Ruleset } from "../formats/ruleset";
import { scheduleSchema } from "../formats/schedule";
import type { Visit } from "../formats/visit";
import { day as dayLength } from "../calendar/calendar";
import { readySchedule } from "../schedule/schedule";
import { zoneOf } from "../calendar/zone";
import { visitAt } from "../lens/travel";

/** A stretch [from, until) of time, epoch ms, in which the same variants of a slot win. Null is the fallback. */
export interface Stretch {
  from: number;
  until: number;
  variants: (string | null)[];
  /** False where the slot is not on the page. */
  onPage: boolean;
}

/** A stretch [from, until) of time, epoch ms, in which a pop-up opens or a redirect sends on, or neither. */
export interface OnStretch {
  from: number;
  until: number;
  on: boolean;
}

/**
 * The instants within (from, until) at which a decision that hinges on some rules may change for a visit: edges of the
 * schedules in them and, where a date is asked for, the site's midnights. Between two of them it cannot change by time.
 */
export function edges(
  rules: readonly Rule[],
  ruleset: Ruleset,
  from: number,
  until: number,
  visitorZone?: string,
): number[] {
  const out = new Set<number>();
  let dated = false;
  const seen = new Set<string>();
  const walk = (rule: Rule): void => {
    if (rule === null) return;
    if (isCondition(rule)) {
      if (rule.signal === "time") {
        const schedule = scheduleSchema.safeParse(rule.value);
        if (!schedule.success) return;
        for (const span of readySchedule(schedule.data, ruleset.site.zone).spans(from, until, visitorZone)) {
          out.add(span.from);
          out.add(span.until);
        }
      } else if (rule.op === "anniversary") dated = true;
      return;
    }
    const members = groupOf(rule);
    if (members) return members.rules.forEach(walk);
    const { audience } = rule as { audience: string };
    if (seen.has(audience)) return;
    seen.add(audience);
    walk(ruleset.audiences.find((item) => item.id === audience)?.rule ?? null);
  };
  for (const rule of rules) walk(rule);
  // What a rule leans on by way of offers and markers moves with their dates and schedules too.
  for (const offer of ruleset.offers) walk(offer.rule);
  for (const marker of ruleset.markers) {
    walk(marker.gain ?? null);
    walk(marker.lose);
  }
  const zone = zoneOf(ruleset.site.zone);
  for (const item of [
    ...ruleset.offers.map((o) => [o.from, o.until]),
    ...ruleset.markers.map((m) => [m.setFrom, m.setUntil]),
  ].flat())
    if (item) out.add(zone.toInstant(Date.parse(`${item}Z`)));
  if (dated)
    for (let day = Math.floor(zone.toLocal(from) / dayLength); day * dayLength < zone.toLocal(until); day++)
      out.add(zone.toInstant(day * dayLength));
  return [...out].filter((at) => at > from && at < until).sort((a, b) => a - b);
}

/** What is decided when, for one visit, over [from, until): the engine is asked once a stretch; equal ones become one. */
function stretches<T extends object>(
  engine: Engine,
  rules: readonly Rule[],
  visit: Visit,
  [from, until]: [number, number],
  ask: (decision: Decision) => T,
): (T & { from: number; until: number })[] {
  const starts = [from, ...edges(rules, engine.ruleset, from, until, engine.read(visit).zone)];
  const out: { from: number; until: number; answer: T; key: string }[] = [];
  starts.forEach((start, index) => {
    const answer = ask(engine.decide(visitAt(visit, start)));
    const end = starts[index + 1] ?? until;
    const key = JSON.stringify(answer);
    const last = out.at(-1);
    if (last?.key === key) last.until = end;
    else out.push({ from: start, until: end, answer, key });
  });
  return out.map(({ answer, ...span }) => ({ ...answer, from: span.from, until: span.until }));
}

/** Who wins a slot when, for one visit, over [from, until). */
export function timeline(engine: Engine, slotId: string, visit: Visit, from: number, until: number): Stretch[] {
  const slot = engine.ruleset.slots.find((item) => item.id === slotId);
  if (!slot) return [];
  const redirects = engine.ruleset.redirects.map((redirect) => redirect.rule);
  const rules = [slot.pages, ...slot.variants.map((variant) => variant.rule), ...redirects];
  return stretches(engine, rules, visit, [from, until], ({ slots }) => ({
    variants: slots[slotId]?.map((item) => item.variant) ?? [],
    onPage: slots[slotId] !== undefined,
  }));
}

/** When a pop-up opens for one visit, over [from, until). */
export const popupTimeline = (engine: Engine, id: string, visit: Visit, from: number, until: number): OnStretch[] =>
  stretches(
    engine,
    engine.ruleset.popups.flatMap((popup) => [popup.pages, popup.rule]),
    visit,
    [from, until],
    ({ popup }) => ({ on: popup?.id === id }),
  );

/** When a redirect sends one visit on, over [from, until). */
export const redirectTimeline = (engine: Engine, id: string, visit: Visit, from: number, until: number): OnStretch[] =>
  stretches(
    engine,
    engine.ruleset.redirects.map((redirect) => redirect.rule),
    visit,
    [from, until],
    ({ redirect }) => ({ on: redirect?.id === id }),
  );
