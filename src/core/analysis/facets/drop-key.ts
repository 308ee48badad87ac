/** Takes keys out of a part of a visit in the making. */
export function dropKey(part: Record<string, unknown> | undefined, ...keys: string[]): void {
  for (const key of keys) if (part) delete part[key];
}
