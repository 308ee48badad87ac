/** What a browser keeps for a page, if it keeps anything: where it does not, nothing is there, and nothing is kept. */
type Place = () => Storage;
const tab: Place = () => sessionStorage;
/** Kept until it is taken out; what is kept by a tab goes with it. */
export const lasting: Place = () => localStorage;

export function read(key: string, place = tab): string | null {
  try {
    return place().getItem(key);
  } catch {
    return null;
  }
}
/** Null takes it out. */
export function write(key: string, value: string | null, place = tab): void {
  try {
    if (value === null) place().removeItem(key);
    else place().setItem(key, value);
  } catch {
    // As above.
  }
}
/** What was kept as JSON; what cannot be read is as if nothing were. */
export function readJson<T>(key: string, otherwise: T, place = tab): T {
  try {
    return (JSON.parse(read(key, place) ?? "") as T | null) ?? otherwise;
  } catch {
    return otherwise;
  }
}
