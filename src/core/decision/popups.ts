import { t } from "../messages/t";
import type { Popup, Ruleset } from "../formats/ruleset";
import { readMemory, writeMemory, type Memory, type MemoryJson, type PopupMemory } from "../memory/memory";
import { day as dayLength, minute } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";

/** The day of the site's zone, as a day number. */
export const siteDay = (ruleset: Ruleset, at: number): number =>
  Math.floor(zoneOf(ruleset.site.zone).toLocal(at) / dayLength);

/** Why a pop-up that would open is held back; undefined if nothing holds it. Without consent `memory` is undefined. */
export function heldBack(popup: Popup, ruleset: Ruleset, memory: Memory | undefined, at: number): string | undefined {
  if (!memory) return popup.cap ? t("it has a cap, and without consent nothing can be counted") : undefined;
  if (popup.cap) {
    const seen = memory.popups.get(popup.id);
    if ("hours" in popup.cap) {
      const { hours } = popup.cap;
      if (seen && at - seen.used < hours * 60 * minute)
        return t("it opened {at} minutes ago, and opens at most once in {hours} hours", {
          at: Math.floor((at - seen.used) / minute),
          hours,
        });
      return gapHolds(ruleset, memory, at);
    }
    const { times, per } = popup.cap;
    const count =
      per === "ever"
        ? (seen?.ever ?? 0)
        : per === "visit"
          ? seen?.visit === memory.visits
            ? seen.inVisit
            : 0
          : seen?.day === siteDay(ruleset, at)
            ? seen.inDay
            : 0;
    if (count >= times)
      return t("its cap is reached: {count} of {times} {per}", {
        count,
        times,
        per: per === "ever" ? t("ever") : per === "visit" ? t("in this visit") : t("in this day"),
      });
  }
  return gapHolds(ruleset, memory, at);
}

/** Why the site's gap between pop-ups holds one back; undefined: it does not. */
function gapHolds(ruleset: Ruleset, memory: Memory, at: number): string | undefined {
  const gap = ruleset.site.popupGapMinutes;
  if (gap > 0 && memory.lastPopup > 0 && at - memory.lastPopup < gap * minute)
    return t("the last pop-up was {at} minutes ago, and the site keeps a gap of {gap}", {
      at: Math.floor((at - memory.lastPopup) / minute),
      gap,
    });
  return undefined;
}

/** Counts a pop-up. Changes `memory`. */
export function countPopup(popup: Popup, ruleset: Ruleset, memory: Memory, at: number): void {
  const day = siteDay(ruleset, at);
  const seen: PopupMemory = memory.popups.get(popup.id) ?? {
    ever: 0,
    visit: 0,
    inVisit: 0,
    day: 0,
    inDay: 0,
    used: at,
  };
  memory.popups.set(popup.id, {
    ever: seen.ever + 1,
    visit: memory.visits,
    inVisit: seen.visit === memory.visits ? seen.inVisit + 1 : 1,
    day,
    inDay: seen.day === day ? seen.inDay + 1 : 1,
    used: at,
  });
  memory.lastPopup = at;
}

/**
 * Counts a pop-up that was decided without being counted (`countPopups: "opened"`) and has opened now.
 * @param memory as it was written after that decision, or later; @param decided, @param at epoch milliseconds: of the decision, and
 * of the opening
 * @returns the memory after it; undefined: there is no such pop-up any more, or it was counted since that decision
 */
export function countOpened(
  ruleset: Ruleset,
  memory: unknown,
  id: string,
  decided: number,
  at: number,
): MemoryJson | undefined {
  const popup = ruleset.popups.find((item) => item.id === id);
  const known = readMemory(memory);
  if (!popup || (known.popups.get(id)?.used ?? -1) >= decided) return undefined;
  countPopup(popup, ruleset, known, Math.max(at, decided));
  return writeMemory(known);
}
