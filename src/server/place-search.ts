/** Where slots are on the pages of a site, as the server gets them: without what scripts draw. */
import { t } from "@/core/messages/t";
import { isUrl } from "@/core/text/is-url";
import type { Finding } from "@/core/analysis/findings";
import { changesOf, ownType, type OwnChange } from "@/core/content/own";
import { createEngine } from "@/core/decision/engine";
import type { Ruleset, Slot, Variant } from "@/core/formats/ruleset";
import { selectorProblem } from "@/core/formats/selector";
import { spaced } from "@/core/text/spaced";
import { listPages } from "@/data/pages";
import { nowText } from "@/clock";
import { fetchPage } from "./ask-page";
import { findAll, isDrawnInBrowser, placesOf, textOf, type PageNode } from "./page-places";
import { forEach, forgetPage, readPage } from "./read-pages";

/** How often a selector was found on a page; `found` null: the page could not be read. */
export interface PlaceOnPage {
  path: string;
  title: string;
  found: number | null;
}
export interface PlaceSearch {
  pages: PlaceOnPage[];
  /** Pages of the site that were not tried, because they are too many. */
  untried: number;
}

const mostPages = 60;
/**
 * Tries a selector on the pages of a site.
 * @param here the page on which the part is pointed at: it is tried among whatever many, and as it is now
 * @returns what is wrong with the selector, in words, if anything is
 */
export async function searchPlace(
  site: string,
  selector: string,
  here?: string,
): Promise<PlaceSearch | { problem: string }> {
  const wrong = selectorProblem(selector);
  if (wrong) return { problem: t("This {wrong}.", { wrong }) };
  const all = await listPages(site);
  const tried = all.filter((page, index) => index < mostPages || page.path === here);
  if (here !== undefined) forgetPage(site, here);
  const pages: PlaceOnPage[] = [];
  await forEach(tried, async ({ path, title }) => {
    const document = await readPage(site, path);
    const found = document && findAll(selector, document);
    pages.push({ path, title, found: found?.length ?? null });
  });
  const order = new Map(tried.map((page, index) => [page.path, index]));
  pages.sort((a, b) => (order.get(a.path) ?? 0) - (order.get(b.path) ?? 0));
  return { pages, untried: all.length - tried.length };
}

/** Why a version of the page's own content does not fit a page; undefined: it fits. */
function misfit(place: PageNode, changes: readonly OwnChange[]): string | undefined {
  for (const { part, was } of changes) {
    const found = part === "" ? [place] : findAll(part, place);
    const [element] = found ?? [];
    if (!found) continue;
    if (!element || found.length > 1)
      return element ? t("a part of it is there {found} times", { found: found.length }) : t("a part of it is gone");
    if (was !== undefined && textOf(element) !== spaced(was))
      return t("it says “{element}” where it said “{was}”", {
        element: textOf(element).slice(0, 60),
        was: was.slice(0, 60),
      });
  }
  return undefined;
}

/** The first thing that is amiss in any of several places. */
function firstOf(places: readonly PageNode[], test: (place: PageNode) => string | undefined): string | undefined {
  for (const place of places) {
    const why = test(place);
    if (why !== undefined) return why;
  }
  return undefined;
}

/** Looks at the pages of a site under a ruleset: whether slots and versions still fit them, and whether redirects lead to one. */
export const lookAtPages = async (site: string, ruleset: Ruleset): Promise<Finding[]> =>
  (await Promise.all([lookAtPlaces(site, ruleset), lookAtDestinations(site, ruleset)])).flat();

/** Redirects that lead to a page of the site itself that is not there. What a visit writes into an address is not tried. */
async function lookAtDestinations(site: string, { redirects, site: { origin } }: Ruleset): Promise<Finding[]> {
  const found: Finding[] = [];
  await forEach(redirects.slice(0, mostPages), async ({ id, name, on, to }) => {
    if (!on || to.includes("{") || !isUrl(to, origin)) return;
    const url = new URL(to, origin);
    if (url.origin !== new URL(origin).origin) return;
    const page = await fetchPage(site, `${url.pathname}${url.search}`);
    if (page.ok && (page.status === 404 || page.status === 410))
      found.push({
        finding: "dead-end",
        about: { kind: "redirect", id },
        proof: "exact",
        says: t("“{name}” leads to {pathname}{search}, which is not there: the site answers {status}", {
          name,
          pathname: url.pathname,
          search: url.search,
          status: page.status,
        }),
      });
  });
  return found;
}

/**
 * Looks whether the slots of a ruleset that were pointed at, and the versions of what stands there, still fit the pages. What fits
 * none of the pages that have the slot is a fault, what does not fit some is a remark.
 */
async function lookAtPlaces(site: string, ruleset: Ruleset): Promise<Finding[]> {
  const pointed = ruleset.slots.filter(
    (slot) => slot.at || slot.variants.some(({ arms }) => arms.some(({ content }) => content?.type === ownType)),
  );
  if (pointed.length === 0) return [];
  const engine = createEngine(ruleset);
  /** By slot, or slot and variant: the pages that were tried, and why it does not fit some. */
  const tried = new Map<
    string,
    { slot: Slot; variant?: Variant; fits: number; misfits: { path: string; why: string }[] }
  >();
  /** Pages without the place of a slot that need not have it. */
  const absent = new Map<Slot, string[]>();
  const note = (slot: Slot, variant: Variant | undefined, path: string, why: string | undefined) => {
    const key = `${slot.id} ${variant?.id ?? ""}`;
    const known = tried.get(key) ?? { slot, ...(variant ? { variant } : {}), fits: 0, misfits: [] };
    tried.set(key, known);
    if (why === undefined) known.fits += 1;
    else known.misfits.push({ path, why });
  };
  const pages = (await listPages(site)).slice(0, mostPages);
  await forEach(pages, async ({ path, facts }) => {
    const here = engine.decide({ at: nowText(), url: `${ruleset.site.origin}${path}`, page: facts }).slots;
    const slots = pointed.filter((slot) => slot.id in here);
    if (slots.length === 0) return;
    const document = await readPage(site, path);
    if (!document || isDrawnInBrowser(document)) return;
    for (const slot of slots) {
      const found = placesOf(document, slot);
      if (!found) continue;
      const [place] = found;
      // A slot of no pages in particular is on those that have its place.
      if (!place && slot.pages === null) absent.set(slot, [...(absent.get(slot) ?? []), path]);
      else if (!place || (found.length > 1 && !slot.at?.each))
        note(
          slot,
          undefined,
          path,
          place ? t("its place was found {found} times", { found: found.length }) : t("its place was not found"),
        );
      else {
        note(slot, undefined, path, undefined);
        for (const variant of slot.variants)
          for (const { content } of variant.arms)
            if (content?.type === ownType)
              note(
                slot,
                variant,
                path,
                firstOf(found, (one) => misfit(one, changesOf(content))),
              );
      }
    }
  });
  // Unless none has it.
  for (const [slot, paths] of absent)
    if (!tried.has(`${slot.id} `)) for (const path of paths) note(slot, undefined, path, t("its place was not found"));
  // Told in the order of the pages, whichever was read first.
  const order = new Map(pages.map((page, index) => [page.path, index]));
  for (const { misfits } of tried.values()) misfits.sort((a, b) => (order.get(a.path) ?? 0) - (order.get(b.path) ?? 0));
  return [...tried.values()].flatMap(({ slot, variant, fits, misfits: [first, ...more] }) =>
    first
      ? [
          {
            finding: "drift" as const,
            slot: slot.id,
            ...(variant ? { variant: variant.id } : {}),
            proof: fits === 0 ? ("exact" as const) : ("searched" as const),
            says: t("{variant}“{slot}” does not fit {path}{more}{fits}: {why}. The page’s own content stands there", {
              variant: variant ? `“${variant.name}” in ` : "",
              slot: slot.name,
              path: first.path,
              more: more.length > 0 ? t(" and {more} more", { more: more.length }) : "",
              fits: fits === 0 ? t(", nor any page that was tried") : "",
              why: first.why,
            }),
          },
        ]
      : [],
  );
}
