/** The normal distribution and the gamma function, by @stdlib: to double precision, far out in the tails, too. */
import erfc from "@stdlib/math-base-special-erfc";
import erfcinv from "@stdlib/math-base-special-erfcinv";

/** Natural logarithm of the gamma function. */
export { default as logGamma } from "@stdlib/math-base-special-gammaln";

/** Probability that a standard normal variable is at most `z`. */
export const normalBelow = (z: number): number => erfc(-z / Math.SQRT2) / 2;

/** The standard normal quantile: `normalBelow` of it is `p`, 0 < p < 1; infinite at 0 and 1, otherwise NaN. */
export const normalQuantile = (p: number): number => -Math.SQRT2 * erfcinv(2 * p);
