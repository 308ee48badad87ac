/** What the demo was like before a test, or before all of them, and the way back there: draft, what is live, and kept checks. */
import { expect, type APIRequestContext } from "@playwright/test";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { replaceDraft } from "@/core/draft/replace";
import type { SiteDraft } from "@/core/formats/site-draft";

export const port = Number(process.env.PORT ?? 4300);
const origin = `http://localhost:${port}`;
const firstFile = `.data/browser-first-${port}.json`;

/** Asks an action of a site, as the owner. */
export async function act<T>(request: APIRequestContext, site: string, name: string, ...input: unknown[]): Promise<T> {
  const answer = await request.post(`/s/${site}/act/${name}`, { headers: { origin }, data: input });
  expect(answer.ok(), `${name}: ${answer.status()}`).toBe(true);
  const text = await answer.text();
  return (text === "" ? undefined : JSON.parse(text)) as T;
}

/** A site as its desk tells of it. */
export interface SiteNow {
  draft?: { ruleset: SiteDraft };
  live?: { number: number };
  checks: { id: string }[];
}
export async function now(request: APIRequestContext, site: string): Promise<SiteNow> {
  const news = await act<Omit<SiteNow, "checks">>(request, site, "news", -1, "");
  const checks = await act<{ items: SiteNow["checks"]; next: number | null }>(request, site, "list", "checks", 0);
  expect(checks.next, "all checks of the demo come at once").toBeNull();
  return { ...news, checks: checks.items };
}

/** Takes a site back to what it was: its draft, what is live, and no check more. */
export async function restore(request: APIRequestContext, site: string, before: SiteNow): Promise<void> {
  const after = await now(request, site);
  if (before.draft && after.draft) {
    const edits = replaceDraft(after.draft.ruleset, before.draft.ruleset);
    if (edits.length > 0) await act(request, site, "change", "As before the test", edits, crypto.randomUUID());
  }
  if (before.live && after.live?.number !== before.live.number)
    await act(request, site, "returnTo", before.live.number, "As before the test");
  for (const { id } of after.checks)
    if (!before.checks.some((check) => check.id === id)) await act(request, site, "dropCheck", id);
}

/** Keeps what the demo is like before the first test. */
export const keepFirst = (first: SiteNow): void => writeFileSync(firstFile, JSON.stringify(first));

let lastFile = "";
/** Each file of tests begins with the demo as it was at first, whatever the files before it did. */
export async function beginFile(request: APIRequestContext, file: string): Promise<void> {
  if (file === lastFile || !existsSync(firstFile)) return;
  lastFile = file;
  await restore(request, "brackenfold", JSON.parse(readFileSync(firstFile, "utf8")) as SiteNow);
}
