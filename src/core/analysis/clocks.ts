import { t } from "../messages/t";
import { isCondition, walkRule } from "../formats/rule";
import { scheduleSchema } from "../formats/schedule";
import { allRules } from "../ruleset/uses";
import { instantPhrase } from "../rules/phrases";
import { day, parseClock } from "../calendar/calendar";
import { readySchedule } from "../schedule/schedule";
import { zoneOf } from "../calendar/zone";
import type { Domain } from "./facet";
import type { Finding } from "./findings";

/** How far ahead clock changes are looked for, in days: every zone that has them has two in it. */
const horizon = 400;

/** Windows that a clock change lengthens, shortens or swallows within the next 400 days. */
export function* clockFindings({ ruleset, from }: Domain): Generator<Finding> {
  const seen = new Set<string>();
  for (const { owner, rule } of allRules(ruleset)) {
    const found: Finding[] = [];
    walkRule(rule, (inner) => {
      if (inner === null || !isCondition(inner) || inner.signal !== "time") return;
      const read = scheduleSchema.safeParse(inner.value);
      if (!read.success || !read.data.windows || read.data.zone === "visitor") return;
      const name = read.data.zone === "site" ? ruleset.site.zone : read.data.zone;
      const zone = zoneOf(name);
      const ready = readySchedule(read.data, ruleset.site.zone);
      for (const change of zone.changes(from, from + horizon * day)) {
        const local = Math.floor(zone.toLocal(change) / day);
        for (const window of read.data.windows) {
          const start = parseClock(window.start) as number;
          const end = parseClock(window.end, true) as number;
          const nominal = (end > start ? end - start : end - start + 1440) * 60_000;
          // A whole day is as long as it is: only hours are looked at.
          if (nominal >= day) continue;
          for (const opened of [local - 1, local]) {
            const begins = zone.toInstant(opened * day + start * 60_000);
            const ends = zone.toInstant((opened + (end > start ? 0 : 1)) * day + end * 60_000);
            if (ends - begins === nominal || change < begins - nominal || change > ends + nominal) continue;
            // Only if the schedule opens on that day at all.
            if (ready.spans(begins - 1, Math.max(ends, begins) + 1).length === 0 && ends > begins) continue;
            const key = `${owner.kind} ${owner.id} ${window.start} ${change}`;
            if (seen.has(key)) continue;
            seen.add(key);
            const minutes = Math.round((ends - begins) / 60_000);
            found.push({
              finding: "clock-change",
              ...(owner.kind === "variant" ? { slot: owner.slot as string, variant: owner.id } : {}),
              ...(owner.kind === "slot" ? { slot: owner.id } : {}),
              ...(owner.kind !== "variant" && owner.kind !== "slot"
                ? { about: { kind: owner.kind, id: owner.id } }
                : {}),
              proof: "exact",
              says: t("{owner}: the hours {start} to {end} {minutes} when the clocks change, {instantPhrase}.", {
                owner: owner.name,
                start: window.start,
                end: window.end,
                minutes:
                  minutes <= 0
                    ? t("do not come")
                    : t("last {minutes} h {minutes2} min", {
                        minutes: Math.floor(minutes / 60),
                        minutes2: minutes % 60,
                      }),
                instantPhrase: instantPhrase(change, name),
              }),
            });
          }
        }
      }
    });
    yield* found;
  }
}
