import type { Marker, Ruleset } from "../formats/ruleset";
import type { Rule } from "../formats/rule";
import { day as dayLength, parseLocal } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";
import type { Judge } from "../rules/compile";
import { YES, type Truth } from "../rules/truth";
import type { Reading } from "../visit/reading";
import type { Memory } from "./memory";

export interface ReadyMarker {
  readonly marker: Marker;
  /** Brings the marker up to date with one page view at `at` (epoch ms). Says what it found. */
  step(memory: Memory, r: Reading, at: number): MarkerStep;
}
/** What a page view did to a marker. */
export type MarkerVerdict = "held" | "gained" | "lost" | "counting" | "not held" | "outside its dates";
export interface MarkerStep {
  held: boolean;
  gain: Truth;
  lose: Truth | undefined;
  count: number;
  verdict: MarkerVerdict;
}

/** Makes a ruleset's markers ready. */
export function readyMarkers(ruleset: Ruleset, compile: (rule: Rule) => Judge): ReadyMarker[] {
  const zone = zoneOf(ruleset.site.zone);
  const bound = (local: string | undefined, otherwise: number): number =>
    local === undefined ? otherwise : zone.toInstant(parseLocal(local) as number);
  return ruleset.markers.map((marker) => {
    const gains = compile(marker.gain ?? null);
    const loses = marker.lose === null ? undefined : compile(marker.lose);
    const from = bound(marker.setFrom, -Infinity);
    const until = bound(marker.setUntil, Infinity);
    return {
      marker,
      step(memory, r, at) {
        const found = memory.markers.get(marker.id);
        const expired = found !== undefined && found.until !== 0 && at >= found.until;
        let count = found && !expired ? found.count : 0;
        let held = found && !expired ? found.until : 0;
        const had = held > 0;
        const lose = loses?.(r);
        const gain = gains(r);
        const dated = at >= from && at < until;
        if (lose === YES) {
          count = 0;
          held = 0;
        } else if (gain === YES && dated) {
          count += 1;
          if (count >= marker.gainViews) held = at + marker.days * dayLength;
        }
        const used = gain === YES || lose === YES || !found ? at : found.used;
        if (count > 0 || held > 0) memory.markers.set(marker.id, { count, until: held, used });
        else memory.markers.delete(marker.id);
        const verdict =
          held > 0
            ? had
              ? "held"
              : "gained"
            : lose === YES && had
              ? "lost"
              : gain === YES && !dated
                ? "outside its dates"
                : count > 0
                  ? "counting"
                  : "not held";
        return { held: held > 0, gain, lose, count, verdict };
      },
    };
  });
}
