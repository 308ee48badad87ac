/** Messages, templates, cleaning, arms and sitemaps against their standards' own examples, and against other libraries. */
import MessageFormat from "@messageformat/core";
import fc from "fast-check";
import { JSDOM } from "jsdom";
import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { Readable } from "node:stream";
import { SitemapStream, streamToPromise } from "sitemap";
import { expect, it } from "vitest";
import { cleanHtml } from "@/core/content/clean";
import { createEngine } from "@/core/decision/engine";
import { drawArm } from "@/core/decision/arms";
import { expandTemplate, templateParts, templateProblem } from "@/core/content/template";
import { readSitemap } from "@/core/exchange/sitemap";
import { ruleset, visit } from "@/core/testing";
import { report } from "./report";

const require = createRequire(import.meta.url);

/** A message as a visitor reads it: by the whole way through a ruleset, its arguments told as data fields. */
function read(message: string, values: Record<string, string | number>, language = "en"): unknown {
  const engine = createEngine(
    ruleset({
      site: { id: "s", name: "S", zone: "UTC", currency: "EUR", language, origin: "https://shop.example" },
      dataFields: Object.entries(values).map(([name, value]) => ({
        signal: "data",
        name,
        kind: typeof value === "number" ? "number" : "text",
      })),
      blockTypes: [{ id: "b", name: "B", fields: [{ id: "t", name: "T", kind: "text" }] }],
      slots: [
        {
          id: "s",
          name: "S",
          fallback: {
            type: "b",
            fields: { t: message },
            tokens: Object.fromEntries(Object.keys(values).map((name) => [name, { signal: `data.${name}` }])),
          },
        },
      ],
    }),
  );
  return engine.decide(visit({ data: values })).slots.s?.[0]?.content?.fields.t;
}

it("formats the examples of ICU's own guide and of its MessageFormat class page (from memory)", () => {
  const party = `{gender_of_host, select,
    female {{num_guests, plural, offset:1
      =0 {{host} does not give a party.}
      =1 {{host} invites {guest} to her party.}
      =2 {{host} invites {guest} and one other person to her party.}
      other {{host} invites {guest} and # other people to her party.}}}
    other {{num_guests, plural, offset:1
      =0 {{host} does not give a party.}
      =1 {{host} invites {guest} to their party.}
      other {{host} invites {guest} and # other people to their party.}}}}`;
  const values = { gender_of_host: "female", host: "Ana", guest: "Bo" };
  expect(read(party, { ...values, num_guests: 0 })).toBe("Ana does not give a party.");
  expect(read(party, { ...values, num_guests: 1 })).toBe("Ana invites Bo to her party.");
  expect(read(party, { ...values, num_guests: 2 })).toBe("Ana invites Bo and one other person to her party.");
  expect(read(party, { ...values, num_guests: 4 })).toBe("Ana invites Bo and 3 other people to her party.");
  // "I said '{''Wow!''}'" is the guide's example of quoting; a lone apostrophe stands for itself (DOUBLE_OPTIONAL).
  expect(read("I said '{''Wow!''}' to {host}", { host: "x" })).toBe("I said {'Wow!'} to x");
  expect(read("I don't see {host}", { host: "x" })).toBe("I don't see x");
  expect(read("It's '<b>' for {host}", { host: "x" })).toBe("It's '<b>' for x");
  expect(read("There {n, plural, one {is # file} other {are # files}}", { n: 1234 })).toBe("There are 1,234 files");
  expect(read("{n, selectordinal, one {#st} two {#nd} few {#rd} other {#th}}", { n: 23 })).toBe("23rd");
  expect(read("{n, number, ::currency/EUR}", { n: 8.2 }, "de")).toBe("8,20\u00a0€");
  expect(read("{n, plural, one {# soubor} few {# soubory} other {# souborů}}", { n: 3 }, "cs")).toBe("3 soubory");
});

it("formats as another formatter does (@messageformat/core)", () => {
  const text = fc.string({ unit: fc.constantFrom("a", " ", "é", ".", "!", "''"), maxLength: 6 });
  const plain = fc.oneof(text, fc.constant("{word}"), fc.constant("no. {n}"), fc.constant("'{'x'}'"));
  const branch = fc.array(fc.oneof(plain, fc.constant("#")), { maxLength: 3 }).map((parts) => parts.join(""));
  const plural = fc
    .tuple(fc.constantFrom("plural", "selectordinal"), fc.boolean(), branch, branch, branch)
    .map(
      ([kind, exact, one, two, other]) => `{n, ${kind}, ${exact ? `=0 {${two}} ` : ""}one {${one}} other {${other}}}`,
    );
  const select = fc
    .tuple(branch, branch)
    .map(([a, b]) => `{word, select, fern {${a.replaceAll("#", "")}} other {${b.replaceAll("#", "")}}}`);
  const message = fc
    .array(fc.oneof(plain, plural, select), { minLength: 1, maxLength: 4 })
    .map((parts) => parts.join(" "));
  let agree = 0;
  const of = 1500;
  const other = new Map(
    ["en", "pt", "de"].map((language) => [language, new MessageFormat(language, { strictPluralKeys: false })]),
  );
  const samples = fc.sample(
    fc.tuple(message, fc.nat(40), fc.constantFrom("fern", "moss"), fc.constantFrom("en", "pt", "de")),
    { numRuns: of, seed: 7 },
  );
  for (const [source, n, word, language] of samples) {
    const expected = String(other.get(language)!.compile(source)({ n, word }));
    if (read(source, { n, word }, language) === expected) agree++;
    else
      throw new Error(
        `${language} ${source}: ${String(read(source, { n, word }, language))} is not ${String(expected)}`,
      );
  }
  expect(report("ICU messages, @messageformat/core", agree, of)).toBe(1);
});

it("expands and refuses templates as the test suite of RFC 6570 says (uritemplate-test)", () => {
  type Suite = Record<string, { variables: Record<string, unknown>; testcases: [string, string | string[] | false][] }>;
  let agree = 0;
  let of = 0;
  for (const file of ["spec-examples", "spec-examples-by-section", "negative-tests"]) {
    const suite = JSON.parse(
      readFileSync(`node_modules/uritemplate-corpus/uritemplate-test/${file}.json`, "utf8"),
    ) as Suite;
    for (const { variables, testcases } of Object.values(suite))
      for (const [template, expected] of testcases) {
        // Of the negative tests those are left out that fail by their values and not by how the template is written:
        // a prefix of a list or a table. Redirects know only texts.
        const parts = templateParts(template);
        if (expected === false) {
          const byValue =
            "names" in parts && parts.names.some((name) => typeof variables[name.replace(/[:*].*/, "")] === "object");
          if (byValue) continue;
          of++;
          if ("problem" in parts) agree++;
          else throw new Error(`${template} is accepted`);
          continue;
        }
        of++;
        const got = "problem" in parts ? undefined : expandTemplate(template, variables as Record<string, string>);
        if ([expected].flat().includes(got as string)) agree++;
        else throw new Error(`${template}: ${got} is not ${String(expected)}`);
      }
  }
  expect(report("RFC 6570 templates, uritemplate-test", agree, of)).toBe(1);
  expect(templateProblem("/{country}{+path}")).toBeUndefined();
  expect(templateProblem("/{planet}")).toContain("planet");
});

it("leaves nothing of an open corpus of payloads that could run (dompurify's fixtures)", () => {
  const payloads = (require("dompurify-corpus/test/fixtures/expect.js") as { payload: string }[]).map(
    (item) => item.payload,
  );
  let agree = 0;
  for (const payload of payloads) {
    const clean = cleanHtml(payload);
    const { document } = new JSDOM(`<body>${clean}</body>`).window;
    const bad = [...document.body.querySelectorAll("*")].filter(
      (element) =>
        /^(script|iframe|object|embed|style|link|meta|base|form|input|svg|math|template|noscript)$/i.test(
          element.tagName,
        ) ||
        [...element.attributes].some(
          (attribute) =>
            /^on/i.test(attribute.name) ||
            attribute.name === "style" ||
            (/^(href|src|action|formaction|xlink:href|data)$/i.test(attribute.name) &&
              /^(javascript|data|vbscript)/i.test(attribute.value.replace(/[\u0000-\u0020\u00a0\u2000-\u200f]/g, ""))),
        ),
    );
    if (bad.length > 0) throw new Error(`${payload} leaves ${clean}`);
    if (cleanHtml(clean) !== clean) throw new Error(`${payload} is not clean at once`);
    agree++;
  }
  expect(report("payloads of the sanitising corpus made harmless", agree, payloads.length)).toBe(1);
  expect(payloads.length).toBeGreaterThan(100);
});

it("gives each arm its share of 100,000 visitors, within the binomial interval of 99.99 %", () => {
  const visitors = 100_000;
  const content = null;
  for (const weights of [
    [50, 50],
    [90, 10],
    [33.33, 33.33, 33.34],
    [99.5, 0.5],
    [0, 100],
  ]) {
    const arms = weights.map((weight, index) => ({ id: `arm${index}`, weight, content }));
    for (const owner of ["clinic", "winter-letter", "promise"]) {
      const counts = new Map<string, number>();
      for (let index = 0; index < visitors; index++) {
        const arm = drawArm(owner, arms, `v-${index.toString(36)}`).id;
        counts.set(arm, (counts.get(arm) ?? 0) + 1);
      }
      for (const [index, weight] of weights.entries()) {
        const share = weight / 100;
        const spread = 3.89 * Math.sqrt(visitors * share * (1 - share));
        expect(Math.abs((counts.get(`arm${index}`) ?? 0) - visitors * share)).toBeLessThanOrEqual(spread);
      }
    }
  }
});

it("reads the sitemaps that another library writes (sitemap), and the protocol's own example (from memory)", async () => {
  const addresses = Array.from(
    { length: 300 },
    (_, index) => `https://shop.example/a%20b/${index}?x=${index}&y=%C3%A9`,
  );
  const stream = new SitemapStream({ hostname: "https://shop.example" });
  const entries = addresses.map((url) => ({
    url,
    lastmod: "2026-11-01",
    changefreq: "daily",
    priority: 0.3,
    img: [{ url: "https://shop.example/x.png" }],
  }));
  const xml = (await streamToPromise(Readable.from(entries as object[]).pipe(stream))).toString();
  const got = readSitemap(xml);
  expect(got.ok && got.value.addresses).toEqual(addresses);
  expect(got.ok && got.value.problems).toEqual([]);
  const example = `<?xml version="1.0" encoding="UTF-8"?>
<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">
   <url>
      <loc>http://www.example.com/</loc>
      <lastmod>2005-01-01</lastmod>
      <changefreq>monthly</changefreq>
      <priority>0.8</priority>
   </url>
   <url><loc>http://www.example.com/catalog?item=12&amp;desc=vacation_hawaii</loc></url>
</urlset>`;
  const protocol = readSitemap(example);
  expect(protocol.ok && protocol.value.addresses).toEqual([
    "http://www.example.com/",
    "http://www.example.com/catalog?item=12&desc=vacation_hawaii",
  ]);
});
