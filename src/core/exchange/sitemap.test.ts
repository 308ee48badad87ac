import { describe, expect, it } from "vitest";
import { readSitemap, writeSitemap } from "./sitemap";

const urlset = (inner: string) =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${inner}\n</urlset>`;

describe("a sitemap", () => {
  it("is read with what belongs to each entry around it, each address once", () => {
    const read = readSitemap(
      urlset(
        `<url><loc> https://shop.example/a?x=1&amp;y=2 </loc><lastmod>2026-11-01</lastmod><priority>0.8</priority></url>
         <url><loc><![CDATA[https://shop.example/b]]></loc></url><url><loc>https://shop.example/b</loc></url>`,
      ),
    );
    expect(read).toEqual({
      ok: true,
      value: { kind: "pages", addresses: ["https://shop.example/a?x=1&y=2", "https://shop.example/b"], problems: [] },
    });
  });
  it("tells entries that are wrong, with line and column, and keeps the rest", () => {
    const read = readSitemap(
      urlset(`<url><loc>/relative</loc></url>\n<url></url>\n<url><loc>https://shop.example/</loc></url>`),
    );
    expect(read.ok && read.value.addresses).toEqual(["https://shop.example/"]);
    expect(read.ok && read.value.problems).toEqual([
      "line 3, column 25: “/relative” is no absolute http or https address",
      "line 4, column 11: an entry without <loc>",
    ]);
  });
  it("is refused when it is something else, or broken, at the place where it is", () => {
    expect(readSitemap("<rss></rss>")).toMatchObject({
      ok: false,
      problem: expect.stringContaining("begins with <rss>"),
    });
    expect(readSitemap(urlset("<url><loc>x</url>"))).toMatchObject({
      ok: false,
      problem: expect.stringMatching(/no XML at line 3/),
    });
    expect(readSitemap("")).toMatchObject({ ok: false });
    expect(readSitemap("not xml")).toMatchObject({ ok: false });
  });
  it("names no file or address of its own: entities are not fetched", () => {
    const evil = `<!DOCTYPE x [<!ENTITY e SYSTEM "file:///etc/passwd">]>${urlset("<url><loc>https://shop.example/&e;</loc></url>")}`;
    const read = readSitemap(evil);
    expect(read.ok).toBe(false);
  });
  it("comes back as it was written", () => {
    const addresses = ["https://shop.example/", "https://shop.example/a?b=1&c=%272%27", "https://shop.example/%C3%A9"];
    expect(readSitemap(writeSitemap(addresses))).toMatchObject({ ok: true, value: { addresses, problems: [] } });
  });
  it("may list other sitemaps", () => {
    const index = `<sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><sitemap><loc>https://shop.example/1.xml</loc></sitemap></sitemapindex>`;
    expect(readSitemap(index)).toMatchObject({
      ok: true,
      value: { kind: "sitemaps", addresses: ["https://shop.example/1.xml"] },
    });
  });
});
