/** The two distributions that tests of shares need, by series and continued fractions to double precision. */

/** Natural logarithm of the gamma function (Lanczos, g = 7, n = 9; about 15 digits). */
export function logGamma(x: number): number {
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  const coefficients = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ]; // prettier-ignore
  const z = x - 1;
  const sum = coefficients.reduce((total, value, index) => (index === 0 ? value : total + value / (z + index)), 0);
  const t = z + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (z + 0.5) * Math.log(t) - t + Math.log(sum);
}

/** Upper regularised incomplete gamma function Q(a, x), a > 0, x ≥ 0 (series below a + 1, Lentz's continued fraction above). */
export function upperGamma(a: number, x: number): number {
  if (!(x > 0)) return 1;
  const scale = Math.exp(a * Math.log(x) - x - logGamma(a));
  if (x < a + 1) {
    let term = 1 / a;
    let sum = term;
    for (let n = 1; n < 10_000 && Math.abs(term) > Math.abs(sum) * 1e-17; n++) {
      term *= x / (a + n);
      sum += term;
    }
    return Math.max(0, 1 - sum * scale);
  }
  const tiny = 1e-300;
  let b = x + 1 - a;
  let c = 1 / tiny;
  let d = 1 / b;
  let h = d;
  for (let n = 1; n < 10_000; n++) {
    const an = -n * (n - a);
    b += 2;
    d = an * d + b;
    if (Math.abs(d) < tiny) d = tiny;
    c = b + an / c;
    if (Math.abs(c) < tiny) c = tiny;
    d = 1 / d;
    const step = d * c;
    h *= step;
    if (Math.abs(step - 1) < 1e-16) break;
  }
  return scale * h;
}

/** Probability that a chi-square variable with so many degrees of freedom is at least `x`. */
export const chiSquareAbove = (x: number, degrees: number): number => upperGamma(degrees / 2, x / 2);

/** Probability that a standard normal variable is at most `z`. */
export function normalBelow(z: number): number {
  // P(|Z| > z) is the upper tail of chi-square with one degree of freedom at z².
  const tail = chiSquareAbove(z * z, 1) / 2;
  return z < 0 ? tail : 1 - tail;
}

/** The standard normal quantile: `normalBelow` of it is `p`, 0 < p < 1. Hastings’ start (Abramowitz and Stegun 26.2.22, from memory), then Halley’s steps. */
export function normalQuantile(p: number): number {
  if (!(p > 0 && p < 1)) return p === 0 ? -Infinity : p === 1 ? Infinity : NaN;
  if (p > 0.5) return -normalQuantile(1 - p);
  const t = Math.sqrt(-2 * Math.log(p));
  let z = -(t - (2.30753 + 0.27061 * t) / (1 + t * (0.99229 + 0.04481 * t)));
  for (let step = 0; step < 6; step++) {
    const error = normalBelow(z) - p;
    const slope = Math.exp((-z * z) / 2) / Math.sqrt(2 * Math.PI);
    const u = error / slope;
    z -= u / (1 + (z * u) / 2);
    if (Math.abs(u) < 1e-16) break;
  }
  return z;
}
