/** What the benchmarks share. */
let state = 42;
/** A whole number below n, the same row of them in every run. */
export const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 12) % n;

/** CPU seconds that `work` takes. */
export async function cpu(work: () => unknown): Promise<number> {
  const start = process.cpuUsage();
  await work();
  const used = process.cpuUsage(start);
  return (used.user + used.system) / 1e6;
}
export const median = (list: number[]): number => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
export const line = (figure: object): void => console.log(JSON.stringify(figure));
