import type { Ruleset } from "@/core/formats/ruleset";
import type { SiteDraft } from "@/core/formats/site-draft";
import type { Check } from "@/core/formats/check";
import { listChecks } from "@/data/checks";
import { deliverySettings } from "@/data/delivery";
import { loadDraft } from "@/data/draft";
import { listLenses, type Lens } from "@/data/lenses";
import { listPages, type SitePage } from "@/data/pages";
import { pool } from "@/data/pool";
import { listProducts, type SiteProduct } from "@/data/products";
import { liveRelease } from "@/data/releases";
import { marks } from "./draft";

/** What the workbench opens with. */
export interface OpenedDesk {
  ruleset: SiteDraft;
  version: number;
  undo: string | null;
  redo: string | null;
  live: { ruleset: Ruleset; number: number } | undefined;
  pages: SitePage[];
  products: SiteProduct[];
  lenses: Lens[];
  checks: Check[];
  /** Other hosts that visitors may be sent to, and whose pages may stand in a frame. */
  otherHosts: string[];
  /** The time at which it was opened. */
  now: string;
}

export async function openDesk(site: string): Promise<OpenedDesk | undefined> {
  const draft = await loadDraft(site);
  if (!draft) return undefined;
  const [pages, products, lenses, checks, live, history, { otherHosts }] = await Promise.all([
    listPages(site),
    listProducts(site),
    listLenses(site),
    listChecks(site),
    liveRelease(site),
    marks(site, pool()),
    deliverySettings(site),
  ]);
  return {
    ...draft,
    ...history,
    live: live && { ruleset: live.ruleset, number: live.number },
    pages,
    products,
    lenses,
    checks,
    otherHosts,
    now: new Date().toISOString(),
  };
}
