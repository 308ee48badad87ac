/** A big site: what a shop of many pages has after years. Made up, and the same each time. */
import type { CampaignLink } from "@/core/campaigns/link";
import { checkSchema, type Check } from "@/core/formats/check";
import { lensSchema, type Lens } from "@/core/formats/lens";
import { siteDraftSchema, type SiteDraft } from "@/core/formats/site-draft";
import { ruleset, site } from "@/core/testing";
import { saveChecks } from "@/data/checks";
import { createSite } from "@/data/draft";
import { saveLens } from "@/data/lenses";
import { saveLinks } from "@/data/links";
import { addPages, type SitePage } from "@/data/pages";
import { allSites, transaction } from "@/data/pool";
import { addProducts, type SiteProduct } from "@/data/products";

export const sizes = { slots: 60, variants: 500, pages: 2000, lenses: 300, links: 400, checks: 150, products: 800 };

const many = <T>(count: number, make: (index: number) => T): T[] => Array.from({ length: count }, (_, i) => make(i));
const of = <T>(list: readonly T[], index: number): T => list[index % list.length] as T;

const sections = ["chairs", "tables", "lamps", "rugs", "shelves", "desks", "beds", "stools"];
const countries = ["PT", "ES", "DE", "FR", "IT", "NL", "GB", "US", "BR", "JP"];
const sources = ["letter", "partner", "fair", "print", "radio", "members"];
const things = ["oak", "ash", "wool", "linen", "steel", "glass", "cork"];

const rule = (i: number): unknown =>
  of(
    [
      { signal: "query.utm_source", op: "is", value: of(sources, i) },
      { signal: "place", op: "isIn", value: [{ country: of(countries, i) }] },
      {
        all: [
          { signal: "device.kind", op: "is", value: of(["phone", "tablet", "desktop"], i) },
          { signal: "history.visits", op: "gte", value: 1 + (i % 9) },
        ],
      },
      { signal: "search.words", op: "hasAllWords", value: `${of(things, i)} ${of(sections, i)}` },
      {
        any: [
          { signal: "query.code", op: "is", value: `c${i}` },
          { signal: "cart.subtotal", op: "gte", value: `${10 + (i % 90)}.00` },
        ],
      },
    ],
    i,
  );

const pagePath = (i: number): string => (i === 0 ? "/" : `/${of(sections, i)}/${of(things, i >> 3)}-${i}`);

export interface BigSite {
  draft: SiteDraft;
  pages: SitePage[];
  lenses: Lens[];
  links: CampaignLink[];
  checks: Check[];
  products: SiteProduct[];
}

export function bigSite(id: string, origin: string): BigSite {
  const each = sizes.variants / sizes.slots;
  const text = (i: number) =>
    `${of(things, i)} ${of(sections, i + 3)} for ${of(countries, i)}, number ${i}: made to last, sent within days.`;
  const slots = many(sizes.slots, (s) => ({
    id: `slot-${s}`,
    name: `${of(sections, s)} ${of(["head", "strip", "aside", "foot"], s >> 3)} ${s}`,
    pages: s < 6 ? null : { signal: "page.path", op: "startsWith", value: `/${of(sections, s)}/` },
    variants: many(Math.ceil((s + 1) * each) - Math.ceil(s * each), (v) => {
      const i = Math.ceil(s * each) + v;
      return {
        id: `v${i}`,
        name: `${of(sources, i)} ${of(things, i)} ${i}`,
        rule: rule(i),
        arms: [{ id: "a", weight: 100, content: { type: "note", fields: { text: text(i), more: text(i + 1) } } }],
      };
    }),
  }));
  const draft = siteDraftSchema.parse({
    ...ruleset({
      site: { ...site, id, name: "Big site", origin },
      blockTypes: [
        {
          id: "note",
          name: "Note",
          fields: [
            { id: "text", name: "Text", kind: "line" },
            { id: "more", name: "More", kind: "text" },
          ],
        },
      ],
      slots,
    }),
    library: [],
    picks: [],
  });
  const visit = (i: number) => ({
    at: "2026-11-24T10:15:00Z",
    url: `${origin}${pagePath((i * 7) % sizes.pages)}?utm_source=${of(sources, i)}`,
    place: { country: of(countries, i) },
  });
  return {
    draft,
    pages: many(sizes.pages, (i) => ({
      path: pagePath(i),
      title: i === 0 ? "Start" : `${of(things, i >> 3)} ${of(sections, i)} ${i}`,
      facts: { category: of(sections, i), language: "en", tags: [of(things, i), of(things, i + 2)] },
    })),
    lenses: many(sizes.lenses, (i) =>
      lensSchema.parse({
        id: `lens-${i}`,
        name: `Somebody from ${of(countries, i)}, ${i}`,
        visit: visit(i),
        steps: [],
      }),
    ),
    links: many(sizes.links, (i) => ({
      id: `link-${i}`,
      name: `${of(sources, i)} of week ${i}`,
      path: pagePath(i),
      tags: [
        { name: "utm_source", value: of(sources, i) },
        { name: "code", value: `c${i}` },
      ],
      part: "",
      note: "",
      usedBy: "",
    })),
    checks: many(sizes.checks, (i) =>
      checkSchema.parse({
        id: `check-${i}`,
        name: `Promise ${i}`,
        visit: visit(i),
        expect: { slot: `slot-${i % 6}`, variant: null },
        steps: [],
      }),
    ),
    products: many(sizes.products, (i) => ({
      sku: `sku-${i}`,
      name: `${of(things, i)} ${of(sections, i)} ${i}`,
      category: of(sections, i),
      unitPrice: 1000 + 37 * i,
    })),
  };
}

/** Puts a big site into the database. */
export async function saveBigSite(big: BigSite): Promise<void> {
  const { id } = big.draft.site;
  await transaction(allSites, async (db) => {
    await createSite(big.draft, db);
    await addPages(id, big.pages, db);
    for (const lens of big.lenses) await saveLens(id, lens, db);
    await saveLinks(id, big.links, db);
    await saveChecks(id, big.checks, db);
    await addProducts(id, big.products, db);
  });
}
