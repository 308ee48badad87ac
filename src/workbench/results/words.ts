import { daysUntil } from "@/core/statistics/verdict";
import type { Share } from "@/core/statistics/shares";
import { plain } from "../parts/numbers";

const plural = (count: number, word: string): string => `${plain(count)} ${word}${count === 1 ? "" : "s"}`;
const spanOf = (days: number): string => (days < 14 ? plural(days, "day") : plural(Math.round(days / 7), "week"));

/** How sure one may be of a difference. */
export const sureText = (p: number): string =>
  `One may be ${p < 0.0001 ? "more than 99.99" : ((1 - p) * 100).toFixed(p < 0.01 ? 2 : 0)} % sure that it is no chance.`;

/** How long it takes until a difference like this one is told, at the traffic that there was. @param of the arms that are waited for */
export function waitText(needed: number | undefined, of: readonly Pick<Share, "of">[], days: number): string {
  if (needed === undefined) return "";
  const left = daysUntil(needed, of, days);
  if (left === undefined)
    return " A difference as small as this one is not told within two years at this traffic: stop, or try something bolder.";
  return ` A difference of this size is told after about ${plain(needed)} visitors an arm: ${left === 0 ? "any day" : `in about ${spanOf(left)}`}, at this traffic.`;
}
