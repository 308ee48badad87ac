/** How wide the part beside the page is, in pixels: wide enough for a rule, and the page keeps the greater part of a window of 1,280. */
export const sideWidth = { usual: 408, least: 340, most: 760, step: 24, cookie: "mirada-side" } as const;

/** A width within its bounds; what is no number is the usual one. */
export function sideWidthOf(kept: string | number | undefined): number {
  const asked = Number(kept);
  if (kept === undefined || kept === "" || !Number.isFinite(asked)) return sideWidth.usual;
  return Math.round(Math.min(sideWidth.most, Math.max(sideWidth.least, asked)));
}
