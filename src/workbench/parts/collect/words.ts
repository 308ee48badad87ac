import { t } from "@/core/messages/t";
import { exponentOf, formatMoney } from "@/core/money/currency";
import { isWorth } from "@/core/collect/sources";
import type { Value } from "@/core/collect/values";
import type { Site } from "@/core/formats/ruleset";

/** A value that was read from a page, in words: money in the site's currency. */
export function valueWords(signal: string, value: Value, { currency, language }: Site): string {
  if ((signal === "cart.subtotal" || isWorth(signal)) && typeof value === "number")
    return formatMoney(Math.round(value * 10 ** (exponentOf(currency) ?? 2)), currency, language);
  if (Array.isArray(value)) return value.join(", ");
  if (typeof value === "boolean") return value ? t("yes") : t("no");
  const text = String(value);
  return text.length > 60 ? `${text.slice(0, 58)} …` : text;
}
