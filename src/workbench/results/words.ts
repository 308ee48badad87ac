import { t } from "@/core/messages/t";
import { daysUntil } from "@/core/statistics/verdict";
import type { Share } from "@/core/statistics/shares";
import { plain } from "../parts/numbers";

const spanOf = (days: number): string =>
  days < 14
    ? t("{days, plural, one {# day} other {# days}}", { days })
    : t("{days, plural, one {# week} other {# weeks}}", { days: Math.round(days / 7) });

/** How sure one may be of a difference. */
export const sureText = (p: number): string =>
  t("One may be {p} % sure that it is no chance.", {
    p: p < 0.0001 ? t("more than 99.99") : ((1 - p) * 100).toFixed(p < 0.01 ? 2 : 0),
  });

/** How long it takes until a difference like this one is told, at the traffic that there was. @param of the arms that are waited for */
export function waitText(needed: number | undefined, of: readonly Pick<Share, "of">[], days: number): string {
  if (needed === undefined) return "";
  const left = daysUntil(needed, of, days);
  if (left === undefined)
    return t(
      " A difference as small as this one is not told within two years at this traffic: stop, or try something bolder.",
    );
  return t(" A difference of this size is told after about {needed} visitors an arm: {left}, at this traffic.", {
    needed: plain(needed),
    left: left === 0 ? t("any day") : t("in about {left}", { left: spanOf(left) }),
  });
}
