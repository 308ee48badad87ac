import type { Engine } from "../decision/engine";
import { groupOf, isCondition, type Rule } from "../formats/rule";
import type { Ruleset, Slot } from "../formats/ruleset";
import { scheduleSchema } from "../formats/schedule";
import type { Visit } from "../formats/visit";
import { day as dayLength } from "../schedule/calendar";
import { readySchedule } from "../schedule/schedule";
import { zoneOf } from "../schedule/zone";
import { visitAt } from "../visit/travel";

/** A stretch [from, until) of time, epoch ms, in which the same variants of a slot win. Null is the fallback. */
export interface Stretch {
  from: number;
  until: number;
  variants: (string | null)[];
  /** False where the slot is not on the page. */
  onPage: boolean;
}

/**
 * The instants within (from, until) at which a slot's answer may change for a visit: edges of the schedules in its rules
 * and, where a date is asked for, the site's midnights. Between two of them the answer cannot change by time.
 */
export function edges(slot: Slot, ruleset: Ruleset, from: number, until: number, visitorZone?: string): number[] {
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
  walk(slot.pages);
  for (const variant of slot.variants) walk(variant.rule);
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

/** Who wins a slot when, for one visit, over [from, until): the engine is asked once a stretch. */
export function timeline(engine: Engine, slotId: string, visit: Visit, from: number, until: number): Stretch[] {
  const slot = engine.ruleset.slots.find((item) => item.id === slotId);
  if (!slot) return [];
  const visitorZone = engine.read(visit).zone;
  const starts = [from, ...edges(slot, engine.ruleset, from, until, visitorZone)];
  const out: Stretch[] = [];
  starts.forEach((start, index) => {
    const shown = engine.decide(visitAt(visit, start)).slots[slotId];
    const stretch: Stretch = {
      from: start,
      until: starts[index + 1] ?? until,
      variants: shown?.map((item) => item.variant) ?? [],
      onPage: shown !== undefined,
    };
    const last = out.at(-1);
    if (
      last &&
      last.onPage === stretch.onPage &&
      last.variants.join("\n") === stretch.variants.join("\n") &&
      last.variants.length === stretch.variants.length
    )
      last.until = stretch.until;
    else out.push(stretch);
  });
  return out;
}
