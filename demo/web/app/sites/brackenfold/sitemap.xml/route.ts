import { writeSitemap } from "@/core/exchange/sitemap";
import { storePages } from "../../../../../shop/catalogue";

/** The shop's list of pages, by the sitemap protocol. */
export function GET(): Response {
  return new Response(writeSitemap(storePages.map((page) => `https://brackenfold.example${page.path}`)), {
    headers: { "content-type": "application/xml; charset=utf-8" },
  });
}
