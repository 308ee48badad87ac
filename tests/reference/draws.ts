/** Numbers drawn by chance, for simulations. */

/** Draws how many of `of` hit, each with a probability of `rate`: by the table of the binomial distribution. */
export function hitsOf(of: number, rate: number): (random: () => number) => number {
  const table: number[] = [];
  let weight = (1 - rate) ** of;
  let sum = 0;
  for (let hits = 0; hits <= of; hits++) {
    sum += weight;
    table.push(sum);
    weight *= ((of - hits) / (hits + 1)) * (rate / (1 - rate));
  }
  return (random) => {
    const at = random();
    const found = table.findIndex((below) => at < below);
    return found < 0 ? of : found;
  };
}

/** A standard normal number (G. E. P. Box, M. E. Muller 1958). */
export const normal = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
