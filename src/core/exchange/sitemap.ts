import { t } from "../messages/t";
import { SaxesParser } from "saxes";
import { parseWebUrl } from "../formats/visit";

/** What a sitemap lists (protocol of sitemaps.org, version 0.9): pages, or further sitemaps. */
export interface Sitemap {
  kind: "pages" | "sitemaps";
  /** Absolute http(s) addresses, each once, in their order. */
  addresses: string[];
  /** Entries that were left out, with line and column. */
  problems: string[];
}

/** At most so many addresses stand in one file (the protocol's own limit). */
const most = 50_000;
/** At most so many characters (the protocol: 50 MB uncompressed). */
const longest = 52_428_800;

/** Reads a sitemap.xml. A file that is none is refused with line and column; an entry that is wrong is left out and told. */
export function readSitemap(xml: string): { ok: true; value: Sitemap } | { ok: false; problem: string } {
  if (xml.length > longest) return { ok: false, problem: t("The file is larger than a sitemap may be (50 MB).") };
  const parser = new SaxesParser({ xmlns: true, position: true });
  const place = () => t("line {line}, column {column}", { line: parser.line, column: parser.column });
  const addresses = new Set<string>();
  const problems: string[] = [];
  const path: string[] = [];
  let root: "urlset" | "sitemapindex" | undefined;
  let refusal: string | undefined;
  let text = "";
  let seen = false;
  let full = false;
  parser.on("error", (error) => {
    refusal ??= t("The file is no XML at {place}: {message}", {
      place: place(),
      message: error.message.replace(/^[\d:]+ /, ""),
    });
  });
  parser.on("opentag", ({ local }) => {
    if (path.length === 0) {
      if (local === "urlset" || local === "sitemapindex") root = local;
      else
        refusal ??= t("A sitemap begins with <urlset> or <sitemapindex>; this file begins with <{local}> ({place}).", {
          local,
          place: place(),
        });
    }
    path.push(local);
    text = "";
    if (path.length === 2) seen = false;
  });
  const add = (more: string) => {
    text += more;
  };
  parser.on("text", add);
  parser.on("cdata", add);
  parser.on("closetag", () => {
    const entry = root === "urlset" ? "url" : "sitemap";
    if (path.length === 3 && path[1] === entry && path[2] === "loc") {
      seen = true;
      const address = text.trim();
      const url = parseWebUrl(address);
      if (!url)
        problems.push(
          t("{place}: “{address}” is no absolute http or https address", {
            place: place(),
            address: address.slice(0, 80),
          }),
        );
      else if (address.length >= 2048)
        problems.push(t("{place}: the address is longer than 2,047 characters", { place: place() }));
      else if (addresses.size >= most && !addresses.has(url.href)) {
        if (!full) problems.push(t("{place}: more than 50,000 addresses; the rest is left out", { place: place() }));
        full = true;
      } else addresses.add(url.href);
    }
    if (path.length === 2 && path[1] === entry && !seen)
      problems.push(t("{place}: an entry without <loc>", { place: place() }));
    path.pop();
    text = "";
  });
  try {
    parser.write(xml.replace(/^\uFEFF/, "")).close();
  } catch (error) {
    refusal ??= t("The file is no XML at {place}: {message}", {
      place: place(),
      message: error instanceof Error ? error.message : "",
    });
  }
  if (refusal) return { ok: false, problem: refusal };
  if (!root) return { ok: false, problem: t("The file is empty.") };
  return { ok: true, value: { kind: root === "urlset" ? "pages" : "sitemaps", addresses: [...addresses], problems } };
}

/** Writes a sitemap of absolute addresses. */
export function writeSitemap(addresses: readonly string[]): string {
  const escape = (text: string) =>
    text
      .replaceAll("&", "&amp;")
      .replaceAll("<", "&lt;")
      .replaceAll(">", "&gt;")
      .replaceAll("'", "&apos;")
      .replaceAll('"', "&quot;");
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">',
    ...addresses.map((address) => `  <url><loc>${escape(address)}</loc></url>`),
    "</urlset>",
    "",
  ].join("\n");
}
