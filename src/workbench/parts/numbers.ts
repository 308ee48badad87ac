import { locale } from "@/core/messages/t";
/** Counts and shares as people read them. */
export const plain = (count: number): string => count.toLocaleString(locale());
/** A share in percent: one decimal, two below one percent, "–" of nothing. */
export function percent(hits: number, of: number): string {
  if (!(of > 0)) return "–";
  return share(hits / of);
}
export const share = (value: number): string => {
  const percent = value * 100;
  const digits = percent !== 0 && Math.abs(percent) < 1 ? 2 : 1;
  return `${percent.toLocaleString(locale(), { minimumFractionDigits: digits, maximumFractionDigits: digits })} %`;
};
