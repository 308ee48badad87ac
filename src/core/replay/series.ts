import { day } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";
import type { Tally } from "./tally";

/** Page views of a slot over time: by hour, or by day where it is a long time; wall clock of a zone. */
export interface Series {
  daily: boolean;
  /** Wall clock ms of the beginnings, in order. */
  bins: number[];
  /** By variant ("fallback" is the fallback): views in each bin. */
  variants: Map<string, number[]>;
  /** Views on which the slot would change. */
  changed: number[];
}

/** From so many days on a log is told by day. */
const longDays = 4;

/** @param of `shown` under the rules, `other` under those they are compared with */
export function overTime(tally: Tally, slot: string, of: "shown" | "other", zoneId: string): Series {
  const zone = zoneOf(zoneId);
  const daily = tally.until - tally.from > longDays * day;
  const length = daily ? day : day / 24;
  const binOf = (at: number) => Math.floor(zone.toLocal(at) / length) * length;
  const bins = [...new Set(tally.hours.map((hour) => binOf(hour.at)))].sort((a, b) => a - b);
  const place = new Map(bins.map((at, index) => [at, index]));
  const empty = () => bins.map(() => 0);
  const variants = new Map<string, number[]>();
  const changed = empty();
  for (const hour of tally.hours) {
    const at = place.get(binOf(hour.at)) as number;
    for (const [index, count] of hour.counts) {
      const key = tally.counts[index]?.key;
      if (key?.of === "move" && key.slot === slot) changed[at] = (changed[at] ?? 0) + count;
      if (key?.of !== of || key.slot !== slot) continue;
      const row = variants.get(key.variant) ?? empty();
      variants.set(key.variant, row);
      row[at] = (row[at] ?? 0) + count;
    }
  }
  return { daily, bins, variants, changed };
}
