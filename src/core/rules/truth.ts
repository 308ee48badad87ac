/** Kleene's three truth values, so ordered that `all` is the least, `any` the greatest and negation the distance to 2. */
export type Truth = 0 | 1 | 2;
export const NO = 0;
export const UNKNOWN = 1;
export const YES = 2;

export const not = (truth: Truth): Truth => (2 - truth) as Truth;
export const truthOf = (flag: boolean): Truth => (flag ? YES : NO);
export const truthNames = ["false", "unknown", "true"] as const;
export type TruthName = (typeof truthNames)[number];
