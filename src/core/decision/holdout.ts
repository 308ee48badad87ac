import { murmur3 } from "./murmur";

const encoder = new TextEncoder();

/** As results name what is counted of the holdout, beside slots and pop-ups (`popup:ID`); its arms are `out` and `in`. */
export const holdoutSlot = "site:holdout";

/**
 * Whether a visitor sees no variant and no pop-up: always the same ones, drawn apart from arms. Nobody is who is not remembered.
 * @param percent of 100 visitors, so many; undefined: none
 */
export function isHeldOut(percent: number | undefined, visitorId: string | undefined): boolean {
  if (percent === undefined || !visitorId) return false;
  return (murmur3(encoder.encode(`holdout:${visitorId}`)) / 2 ** 32) * 100 < percent;
}
