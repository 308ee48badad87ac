import type { Engine } from "../decision/engine";
import type { Visit } from "../formats/visit";
import { day as dayLength } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";
import { timeline } from "./timeline";

/** For each hour of a week, the share (0 to 1) of some visitors who see a variant. */
export interface Heat {
  /** By variant id, null the fallback: 7 rows from Monday on, 24 hours each. */
  shares: Map<string | null, number[][]>;
}

const hour = 3_600_000;
const grid = (): number[][] => Array.from({ length: 7 }, () => new Array<number>(24).fill(0));

/**
 * Over the week that begins on the Monday before an instant (in the site's zone): by weekday and hour, the share of visits on
 * which each variant of a slot is shown at the beginning of that hour. Each visitor looks at the page that they look at.
 */
export function heatOf(engine: Engine, slot: string, visits: readonly Visit[], at: number): Heat {
  const zone = zoneOf(engine.ruleset.site.zone);
  const today = Math.floor(zone.toLocal(at) / dayLength);
  const monday = today - ((((today + 3) % 7) + 7) % 7);
  const from = zone.toInstant(monday * dayLength);
  const until = zone.toInstant((monday + 7) * dayLength);
  const shares = new Map<string | null, number[][]>();
  for (const visit of visits) {
    const stretches = timeline(engine, slot, visit, from, until);
    let index = 0;
    for (let day = 0; day < 7; day++)
      for (let clock = 0; clock < 24; clock++) {
        const instant = zone.toInstant((monday + day) * dayLength + clock * hour);
        while (index < stretches.length - 1 && (stretches[index]?.until ?? 0) <= instant) index += 1;
        const stretch = stretches[index];
        if (!stretch?.onPage) continue;
        for (const variant of stretch.variants) {
          let rows = shares.get(variant);
          if (!rows) shares.set(variant, (rows = grid()));
          const row = rows[day] as number[];
          row[clock] = (row[clock] as number) + 1 / visits.length;
        }
      }
  }
  return { shares };
}
