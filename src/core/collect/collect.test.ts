import { describe, expect, it } from "vitest";
import { rulesetSchema } from "../formats/ruleset";
import { readRuleset } from "../ruleset/check";
import { createEngine } from "../decision/engine";
import { asTold, cartOf, gather, saidBy, type PageReader } from "./gather";
import { follow, inJsonLd } from "./json-ld";
import { lookSources, sourcesOf, worthSignal } from "./sources";
import { likelyDecimal, readNumber, readValue } from "./values";

describe("numbers as pages write them", () => {
  it.each([
    ["€24.00", ".", 24],
    ["2 prints in your basket: €24.00", ".", 24],
    ["2 Drucke, 1.234,50 € gesamt", ",", 1234.5],
    ["1 234,50 €", ",", 1234.5],
    ["CHF 1’234.50", ".", 1234.5],
    ["1,234,567", ".", 1234567],
    ["1.234.567", ".", 1234567],
    ["-5", ".", -5],
    ["(3)", ".", 3],
    ["EUR 7", ".", 7],
    ["3 for 2", ".", 3],
  ] as const)("%s", (text, decimal, number) => expect(readNumber(text, decimal)).toBe(number));
  it("nothing is made of what is no number", () => {
    for (const text of ["", "free", "€", "–"]) expect(readNumber(text)).toBeUndefined();
  });
  it("reads what Intl.NumberFormat (ECMA-402, CLDR) writes, in many languages", () => {
    const locales = ["en", "en-IN", "de", "de-CH", "fr", "pt-PT", "pt-BR", "es", "it", "nl", "sv", "pl", "cs", "ja"];
    let tried = 0;
    for (const locale of locales)
      for (const currency of ["EUR", "USD", "GBP", "CHF"])
        for (const amount of [0, 0.5, 7, 12.34, 999.99, 1234.5, 98765.43, 1234567.89]) {
          const format = new Intl.NumberFormat(locale, { style: "currency", currency });
          const parts = format.formatToParts(amount);
          const decimal = parts.find((part) => part.type === "decimal")?.value as "." | ",";
          expect([locale, currency, readNumber(format.format(amount), decimal)]).toEqual([locale, currency, amount]);
          const likely = likelyDecimal(format.format(amount));
          if (likely !== undefined) expect([locale, amount, likely]).toEqual([locale, amount, decimal]);
          tried += 1;
        }
    expect(tried).toBe(448);
  });
  it("guesses the decimal sign only where the text says it", () => {
    expect(likelyDecimal("1.234,50")).toBe(",");
    expect(likelyDecimal("1,234.50")).toBe(".");
    expect(likelyDecimal("12,5")).toBe(",");
    expect(likelyDecimal("1.234.567")).toBe(",");
    expect(likelyDecimal("1.234")).toBeUndefined();
    expect(likelyDecimal("12")).toBeUndefined();
  });
});

describe("values by their kind", () => {
  it("lists are split, dates begin with a date, flags are whatever does not say no", () => {
    expect(readValue("shade, moss,, stone ", "texts")).toEqual(["shade", "moss", "stone"]);
    expect(readValue(["shade", "moss"], "texts")).toEqual(["shade", "moss"]);
    expect(readValue(" , ", "texts")).toBeUndefined();
    expect(readValue("2026-11-24T10:15:00Z", "date")).toBe("2026-11-24");
    expect(readValue("24.11.2026", "date")).toBeUndefined();
    expect(readValue("Signed in as Ana", "flag")).toBe(true);
    for (const no of ["false", "No", "0", "off", false]) expect(readValue(no, "flag")).toBe(false);
    expect(readValue("", "flag")).toBeUndefined();
    expect(readValue("  ", "text")).toBeUndefined();
    expect(readValue({ a: 1 }, "text")).toBeUndefined();
    expect(readValue(12.5, "number", ",")).toBe(12.5);
  });
});

/** The shapes of schema.org’s own examples of Product and BreadcrumbList (from memory), with values of our own. */
const product = {
  "@context": "https://schema.org/",
  "@type": "Product",
  sku: "fern-01",
  category: "ferns",
  offers: { "@type": "Offer", price: "12.95", priceCurrency: "EUR" },
};
const crumbs = {
  "@context": "https://schema.org",
  "@type": "BreadcrumbList",
  itemListElement: [
    { "@type": "ListItem", position: 3, name: "Shade fern" },
    { "@type": "ListItem", position: 1, name: "Home", item: "https://shop.example/" },
    { "@type": "ListItem", position: 2, name: "Ferns", item: "https://shop.example/ferns" },
  ],
};

describe("linked data", () => {
  it("a way begins at a type, wherever it is, and follows names and numbers", () => {
    expect(inJsonLd([product], "Product.offers.price")).toBe("12.95");
    expect(inJsonLd([{ "@graph": [crumbs, product] }], "Product.sku")).toBe("fern-01");
    expect(inJsonLd([{ "@type": "WebPage", mainEntity: product }], "Product.category")).toBe("ferns");
    expect(inJsonLd([{ ...product, "@type": ["https://schema.org/Product", "Thing"] }], "Product.sku")).toBe("fern-01");
    expect(inJsonLd([{ ...product, offers: [product.offers, {}] }], "Product.offers.price")).toBe("12.95");
    expect(inJsonLd([crumbs], "BreadcrumbList.itemListElement.-2.name")).toBe("Ferns");
    expect(inJsonLd([product], "Product.offers.none.more")).toBeUndefined();
    expect(inJsonLd([product], "Recipe.name")).toBeUndefined();
    expect(inJsonLd([null, 3, "x"], "Product.sku")).toBeUndefined();
    expect(follow({ a: [{ b: 1 }] }, ["a", "0", "b"])).toBe(1);
  });
  it("a document that holds itself many times over ends", () => {
    let deep: unknown = product;
    for (let depth = 0; depth < 50; depth++) deep = { inner: [deep, deep] };
    expect(inJsonLd([deep], "Product.sku")).toBeUndefined();
  });
});

const ruleset = rulesetSchema.parse({
  format: "mirada-ruleset/1",
  site: { id: "s", name: "S", zone: "UTC", currency: "EUR", language: "en", origin: "https://s.example" },
  dataFields: [
    { signal: "page.data", name: "price", kind: "number" },
    { signal: "data", name: "member", kind: "flag" },
  ],
  collect: [
    { signal: "cart.subtotal", from: { selector: ".sum" }, decimal: "," },
    { signal: "cart.count", from: { selector: ".count" } },
    { signal: "page.category", from: { jsonLd: "Product.category" } },
    { signal: "page.category", from: { selector: ".crumb" } },
    { signal: "page.data.price", from: { objects: "siteData", key: "product.price" } },
    { signal: "data.member", from: { selector: ".hello" } },
  ],
});
const reader = (texts: Record<string, string[]>, more: Partial<PageReader> = {}): PageReader => ({
  texts: (selector) => texts[selector] ?? [],
  jsonLd: () => [],
  objects: () => undefined,
  ...more,
});

describe("gathering", () => {
  it("tells a visit what the page says", () => {
    const sources = sourcesOf(ruleset);
    const page = reader(
      { ".sum": ["", "1.024,50 €"], ".count": ["3 things"], ".crumb": ["moss"], ".hello": ["Hello, Ana"] },
      { objects: (name) => (name === "siteData" ? [{ product: { price: 9.5 } }, { product: { price: 12 } }, {}] : []) },
    );
    const told = asTold(gather(sources, page), sources);
    expect(told).toEqual({
      page: { category: "moss", data: { price: 12 } },
      cart: {
        lines: [
          { sku: "cart", quantity: 1, unitPrice: 102_450 },
          { sku: "more", quantity: 2, unitPrice: 0 },
        ],
      },
      data: { member: true },
    });
    const engine = createEngine({
      ...ruleset,
      slots: rulesetSchema.shape.slots.parse([
        {
          id: "bar",
          name: "Bar",
          pages: null,
          variants: [
            {
              id: "big",
              name: "Big carts",
              rule: {
                all: [
                  { signal: "cart.subtotal", op: "gte", value: "1024.50" },
                  { signal: "cart.count", op: "eq", value: 3 },
                ],
              },
              arms: [{ id: "a", weight: 100, content: null }],
            },
          ],
        },
      ]),
    });
    const visit = { at: "2026-11-24T10:15:00Z", url: "https://s.example/", ...told };
    expect(engine.decide(visit as never).slots.bar?.[0]?.variant).toBe("big");
  });
  it("the first source that has a value counts, and what is not there is not told", () => {
    const sources = sourcesOf(ruleset);
    const both = reader({ ".crumb": ["moss"] }, { jsonLd: () => [product] });
    expect(asTold(gather(sources, both), sources)).toEqual({ page: { category: "ferns" } });
    expect(asTold(gather(sources, reader({})), sources)).toEqual({});
  });
  it("a cart is known by its value, in the currency’s own units", () => {
    expect(cartOf(0, undefined, 2)).toEqual({ lines: [] });
    expect(cartOf(0, 0, 2)).toEqual({ lines: [] });
    expect(cartOf(19.99, undefined, 2)?.lines).toEqual([{ sku: "cart", quantity: 1, unitPrice: 1999 }]);
    expect(cartOf(1200, 1, 0)?.lines).toEqual([{ sku: "cart", quantity: 1, unitPrice: 1200 }]);
    expect(cartOf(undefined, 3, 2)).toBeUndefined();
    expect(cartOf(-3, 3, 2)).toBeUndefined();
  });
  it("what goals are worth is read beside it while a page is looked at, and is no value of the visit", () => {
    const goal = {
      id: "order",
      name: "Order",
      way: "click",
      at: { selector: "a" },
      worth: { from: { selector: ".sum" } },
    };
    const sources = lookSources(rulesetSchema.parse({ ...ruleset, collect: [], goals: [goal] }));
    const values = gather(sources, reader({ ".sum": ["€24.00"] }));
    expect([...values]).toEqual([[worthSignal("order"), 24]]);
    expect(asTold(values, sources)).toEqual({});
    expect(sourcesOf({ ...ruleset, collect: [] })).toEqual([]);
  });
  it("what an element carries for machines comes before its text", () => {
    const element = (attributes: Record<string, string>, text = "€24") => ({
      get: (name: string) => attributes[name],
      text: () => text,
    });
    expect(saidBy(element({ content: "24.00" }))).toBe("24.00");
    expect(saidBy(element({ datetime: "2026-11-24" }))).toBe("2026-11-24");
    expect(saidBy({ ...element({ value: "1" }), typed: "2" })).toBe("2");
    expect(saidBy(element({}))).toBe("€24");
  });
});

describe("what a ruleset may collect", () => {
  const problemsOf = (collect: unknown[]) => {
    const read = readRuleset({ ...ruleset, collect });
    return read.ok ? [] : read.problems.map(({ path, code }) => `${path} ${code}`);
  };
  it("is said at its path where it cannot be", () => {
    expect(problemsOf(ruleset.collect)).toEqual([]);
    const sum = { signal: "cart.subtotal", from: { selector: ".sum" } };
    expect(problemsOf([{ signal: "device.kind", from: { selector: "h1" } }])[0]).toContain("/collect/0/signal");
    expect(problemsOf([{ signal: "data.unknown", from: { selector: "h1" } }])[0]).toContain("/collect/0/signal");
    expect(problemsOf([{ signal: "cart.count", from: { selector: "h1" } }])[0]).toContain("/collect/0/signal missing");
    expect(problemsOf([{ signal: "page.category", from: { selector: "h1" }, decimal: "," }])[0]).toContain(
      "/collect/0/decimal not-here",
    );
    expect(problemsOf([{ ...sum, from: { selector: "..x" } }])[0]).toContain("/collect/0/from");
    expect(problemsOf([{ ...sum, from: { objects: "a b", key: "x" } }])[0]).toContain("/collect/0/from");
    expect(problemsOf([{ ...sum, more: 1 }])[0]).toContain("/collect/0");
  });
});
