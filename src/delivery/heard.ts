/** Notes where the tag was heard from: for the workbench, which tells pages that have it from those that have lost it. */
import { originProblem } from "@/core/formats/origin";
import { noteTagSeen } from "@/data/tag-seen";
import { logFailure } from "@/data/failures";

/** A place is noted again after so many milliseconds. */
const again = 60_000;
/** What is noted waits for others so many milliseconds. */
const waits = 500;
const mostKnown = 20_000;

const known = new Map<string, number>();
const waiting = new Map<string, { paths: Set<string>; refused: Set<string> }>();
let timer: ReturnType<typeof setTimeout> | undefined;

function note(site: string, where: string, list: "paths" | "refused"): void {
  const key = `${site} ${where}`;
  const now = performance.now();
  if (now - (known.get(key) ?? -Infinity) < again) return;
  if (known.size >= mostKnown) known.clear();
  known.set(key, now);
  const own = waiting.get(site) ?? { paths: new Set(), refused: new Set() };
  waiting.set(site, own);
  own[list].add(where);
  timer ??= setTimeout(() => void flush(), waits).unref();
}

/** @param url where the tag stands, as its page told; only the path is noted */
export function heardFrom(site: string, url: string): void {
  const path = URL.parse(url)?.pathname;
  if (path?.startsWith("/")) note(site, path.slice(0, 1000), "paths");
}

/** A page of an origin that may not ask has a key of the site. */
export function refusedTo(site: string, origin: string): void {
  if (origin.length <= 260 && originProblem(origin) === undefined) note(site, origin, "refused");
}

/** Writes what waits. Should it fail, a line is logged, and the next page view notes it anew. */
export async function flush(): Promise<void> {
  clearTimeout(timer);
  timer = undefined;
  const all = [...waiting];
  waiting.clear();
  for (const [site, { paths, refused }] of all)
    await noteTagSeen(site, [...paths], [...refused]).catch((error: unknown) => {
      for (const where of [...paths, ...refused]) known.delete(`${site} ${where}`);
      logFailure("where the tag was heard from could not be noted", { site }, error);
    });
}
