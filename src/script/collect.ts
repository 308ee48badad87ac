/**
 * Beside the page script of a site that says where its values stand: what the page tells is read from the page. The server puts the
 * sources before it, as `miradaSources`.
 */
import { asTold, gather, type Source, type Told } from "@/core/collect/gather";
import { pageReader } from "./read-page";

/** A page is taken to be drawn when nothing in it has changed for so many milliseconds; and that is waited for so long at most. */
const quiet = 50;
const longest = 300;

const page = window as { miradaSources?: Source[]; miradaTold?: unknown };
const sources = page.miradaSources ?? [];

/** Resolves once the page is there as a whole. */
const whole = (left: number): Promise<void> =>
  new Promise((resolve) => {
    if (document.readyState !== "loading") return resolve();
    document.addEventListener("DOMContentLoaded", () => resolve(), { once: true });
    setTimeout(resolve, left);
  });
/** Resolves once nothing changes in the page any more. */
const still = (left: number): Promise<void> =>
  new Promise((resolve) => {
    const end = () => {
      watch.disconnect();
      resolve();
    };
    let timer = setTimeout(end, quiet);
    const watch = new MutationObserver(() => {
      clearTimeout(timer);
      timer = setTimeout(end, quiet);
    });
    watch.observe(document, { childList: true, subtree: true, characterData: true });
    setTimeout(end, Math.min(left, longest));
  });

/**
 * What the page tells, within so many milliseconds.
 * @param another whether it has become another page without loading: then the one before may still stand there
 */
page.miradaTold = async (left: number, another: boolean): Promise<Told> => {
  await whole(left);
  let found = gather(sources, pageReader);
  if (another || found.size < new Set(sources.map(({ signal }) => signal)).size) {
    // Scripts may be drawing it.
    await still(left);
    found = gather(sources, pageReader);
  }
  return asTold(found, sources);
};
