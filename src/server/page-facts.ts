/** What the pages of a site tell, as the server gets them: without what scripts draw or put into data objects. */
import { DomUtils } from "htmlparser2";
import { asTold, gather, saidBy, valueOf, type PageReader } from "@/core/collect/gather";
import { sourceOf, sourcesOf, standardData, standardSources } from "@/core/collect/sources";
import type { Value } from "@/core/collect/values";
import type { Collect } from "@/core/formats/collect";
import type { DataField, Ruleset } from "@/core/formats/ruleset";
import { loadDraft } from "@/data/draft";
import { listPages, saveFacts, type SitePage } from "@/data/pages";
import { forEach, readPage } from "./read-pages";
import { findAll, isDrawnInBrowser, textOf, type PageNodes } from "./page-places";

/** A page as a server got it, as what is collected reads it. */
export const readerOf = (page: PageNodes): PageReader => ({
  texts: (selector, attribute) =>
    (findAll(selector, page) ?? []).flatMap((node) => {
      if (!("attribs" in node)) return [];
      const { attribs } = node;
      if (attribute !== undefined) return attribs[attribute.toLowerCase()] ?? [];
      return saidBy({ get: (name) => attribs[name], text: () => textOf(node) });
    }),
  jsonLd: () =>
    (findAll('script[type="application/ld+json"]', page) ?? []).flatMap((node) => {
      try {
        return [JSON.parse(DomUtils.textContent(node)) as unknown];
      } catch {
        // It is no JSON: then it tells nothing.
        return [];
      }
    }),
  objects: () => undefined,
});

/** Title and facts of a page: `<title>`, `<html lang>`, what is collected, and, if the site gives it, `<meta name="mirada-page">`. */
export function factsIn(page: PageNodes, path: string, ruleset: Ruleset): SitePage {
  const reader = readerOf(page);
  const [title] = (findAll("title", page) ?? []).map(textOf);
  const [language] = reader.texts("html", "lang");
  const { page: told = {} } = asTold(gather(sourcesOf(ruleset), reader), []);
  const facts: Record<string, unknown> = { ...(language ? { language } : {}), ...told };
  const [own] = reader.texts('meta[name="mirada-page"]', "content");
  try {
    const { title: named, ...rest } = JSON.parse(own ?? "{}") as Record<string, unknown>;
    return { path, title: typeof named === "string" ? named : title || path, facts: { ...facts, ...rest } };
  } catch {
    // What the page tells of itself cannot be read: then only the rest is known.
    return { path, title: title || path, facts };
  }
}

/** Reads title and facts of pages anew; what cannot be read, or is drawn in the browser, stays as it is. */
export async function readFacts(site: string): Promise<void> {
  const [pages, draft] = await Promise.all([listPages(site), loadDraft(site)]);
  if (!draft) return;
  const fresh = new Map<string, SitePage>();
  await forEach(pages.slice(0, mostPages), async ({ path }) => {
    const document = await readPage(site, path);
    if (document && !isDrawnInBrowser(document)) fresh.set(path, factsIn(document, path, draft.ruleset));
  });
  await saveFacts(site, [...fresh.values()]);
}

const mostPages = 200;
const mostTried = 60;

/** What an entry reads on a page; null: nothing there. */
export interface ReadOnPage {
  path: string;
  value: Value | null;
}
export interface CollectTried {
  pages: ReadOnPage[];
  /** Pages that scripts draw, or that cannot be read: what stands there shows only when they are opened. */
  unread: number;
}

/** Tries an entry on the pages of a site. */
export async function tryCollect(site: string, entry: Collect): Promise<CollectTried> {
  const [pages, draft] = await Promise.all([listPages(site), loadDraft(site)]);
  const source = draft && sourceOf(entry, draft.ruleset);
  const tried = pages.slice(0, mostTried);
  const read = new Map<string, Value | null>();
  if (source && !("objects" in entry.from))
    await forEach(tried, async ({ path }) => {
      const document = await readPage(site, path);
      if (document && !isDrawnInBrowser(document)) read.set(path, valueOf(source, readerOf(document)) ?? null);
    });
  return {
    pages: tried.flatMap(({ path }) => (read.has(path) ? [{ path, value: read.get(path) ?? null }] : [])),
    unread: tried.length - read.size,
  };
}

/** A value that the pages have by an open standard, and that is not collected yet. */
export interface Suggestion {
  entry: Collect;
  /** The data field that it would need. */
  field?: DataField;
  pages: number;
  /** Up to three of the values that were found. */
  such: Value[];
}

/** Looks for what the pages of a site tell by open standards. */
export async function suggestCollect(site: string): Promise<Suggestion[]> {
  const [pages, draft] = await Promise.all([listPages(site), loadDraft(site)]);
  if (!draft) return [];
  const { ruleset } = draft;
  const wanted: { entry: Collect; field?: DataField }[] = [
    ...standardSources.map((entry) => ({ entry })),
    ...standardData.map(({ name, kind, from }) => ({
      entry: { signal: `page.data.${name}`, from },
      field: { signal: "page.data" as const, name, kind },
    })),
  ].filter(({ entry }) => !ruleset.collect.some(({ signal }) => signal === entry.signal));
  const found = new Map<object, Value[]>();
  await forEach(pages.slice(0, mostTried), async ({ path }) => {
    const document = await readPage(site, path);
    if (!document) return;
    const reader = readerOf(document);
    for (const item of wanted) {
      const dataFields = item.field ? [...ruleset.dataFields, item.field] : ruleset.dataFields;
      const source = sourceOf(item.entry, { ...ruleset, dataFields });
      const value = source && valueOf(source, reader);
      if (value !== undefined) found.set(item, [...(found.get(item) ?? []), value]);
    }
  });
  // Of several standards that give the same value the one that most pages have.
  const best = new Map<string, Suggestion>();
  for (const item of wanted) {
    const values = found.get(item);
    if (!values || values.length <= (best.get(item.entry.signal)?.pages ?? 0)) continue;
    const known = ruleset.dataFields.some((field) => `${field.signal}.${field.name}` === item.entry.signal);
    best.set(item.entry.signal, {
      entry: item.entry,
      ...(item.field && !known ? { field: item.field } : {}),
      pages: values.length,
      such: [...new Map(values.map((value) => [JSON.stringify(value), value])).values()].slice(0, 3),
    });
  }
  return [...best.values()];
}
