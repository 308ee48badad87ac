/** The tag on a page, as the server gets it: whose it is, and whether the page's policy lets it work. */
import { createHash } from "node:crypto";
import { DomUtils } from "htmlparser2";
import { keptOut } from "@/core/preview/policy";
import type { TagState } from "@/core/preview/tag-standing";
import { siteOfKey } from "@/data/keys";
import type { Fetched } from "./fetch-page";
import { findAll, parsePage } from "./page-places";

/** Whose tag a page carries. */
export function tagOf(html: string, site: string): TagState {
  if (!html.includes("/v1/page.js")) return "none";
  // Whether it carries keys of sites, and none of this one's: its script would ask for another site's versions.
  const sites = [...html.matchAll(/\bpage_[\w-]+/g)].flatMap(([key]) => siteOfKey(key) ?? []);
  return sites.length > 0 && !sites.includes(site) ? "another" : "here";
}

export const headerOf = (page: Pick<Fetched, "headers">, name: string): string | undefined => {
  const value = page.headers[name];
  return Array.isArray(value) ? value.join(", ") : value;
};

/** What a page's own policy keeps out of its tag: directives with what has to be added to them. */
export function keptOutOf(page: Pick<Fetched, "headers" | "body" | "url">, delivery: string): string[] {
  const document = parsePage(page.body);
  const policies = [
    headerOf(page, "content-security-policy") ?? "",
    ...(findAll("meta[http-equiv][content]", document) ?? []).flatMap((node) =>
      "attribs" in node && /^content-security-policy$/i.test(node.attribs["http-equiv"] ?? "")
        ? [node.attribs.content ?? ""]
        : [],
    ),
  ].filter((text) => text.trim() !== "");
  if (policies.length === 0) return [];
  const scripts = (findAll("script", document) ?? []).flatMap((node) => {
    if (!("attribs" in node)) return [];
    const text = DomUtils.textContent(node);
    const src = node.attribs.src;
    return (src ?? text).includes("/v1/page.js") ? [{ src, text, nonce: node.attribs.nonce }] : [];
  });
  const [tag] = scripts;
  if (!tag) return [];
  const hash = createHash("sha256").update(tag.text).digest("base64");
  return keptOut(policies, {
    page: new URL(page.url).origin,
    script: tag.src ? new URL(tag.src, page.url).href : `${delivery}/v1/page.js`,
    asks: `${delivery}/v1/page`,
    inline: tag.src === undefined ? hash : undefined,
    nonce: tag.nonce,
  });
}
