/**
 * What a lens sees is what the engine decides: the same 200 made-up visitors on three kinds of sites – in the same process, static
 * with the tag, drawn in the browser and shown in the mirror – each on a page of that site, by what stands in the page.
 */
import { expect, type Page } from "@playwright/test";
import { createEngine } from "@/core/decision/engine";
import { changesOf, isPagesOwn, ownType } from "@/core/content/own";
import { rulesetOf } from "@/core/draft/picks";
import { runnable } from "@/core/draft/runnable";
import type { Ruleset } from "@/core/formats/ruleset";
import type { SiteDraft } from "@/core/formats/site-draft";
import type { Visit } from "@/core/formats/visit";
import { randomBy } from "@/core/statistics/random";
import type * as Line from "@/workbench/parts/page-frame/page-link";
import { pageLineScript } from "../generated/page-line";
import { port, shopPort, test, visitShop } from "./support";

const pairs = 200;
const agents = [
  undefined,
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64; rv:128.0) Gecko/20100101 Firefox/128.0",
  "Mozilla/5.0 (Linux; Android 14; Pixel 8) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/126.0.0.0 Mobile Safari/537.36",
  "Mozilla/5.0 (iPad; CPU OS 17_5 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/17.5 Safari/605.1.15",
];

/** The same visitors each time; each is then put on a page of the site at hand. */
function visitors(): Omit<Visit, "url">[] {
  const next = randomBy(16);
  const one = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)] as T;
  return Array.from({ length: pairs }, () => {
    const agent = one(agents);
    const country = one([undefined, "PT", "DE", "BR", "US"]);
    const at = new Date(Date.UTC(2026, 10, 20 + Math.floor(next() * 12), Math.floor(next() * 24), 15)).toISOString();
    return {
      at,
      ...(agent ? { userAgent: agent } : {}),
      ...(country ? { place: { country } } : {}),
      ...(next() < 0.4 ? { acceptLanguage: one(["pt-PT", "en", "de-DE,de;q=0.8,en;q=0.5"]) } : {}),
      ...(next() < 0.3 ? { referrer: "https://mossmail.example/letter" } : {}),
      consent: next() < 0.5,
    } as Omit<Visit, "url">;
  });
}
const queries = ["", "?utm_source=letter", "?utm_source=mossmail&utm_campaign=winter", "?section=shade"];

const act = (page: Page, site: string, name: string, data: unknown[]) =>
  page.request.post(`/s/${site}/act/${name}`, { headers: { origin: `http://localhost:${port}` }, data });

/** What stands in a slot's place, as a page shows it. */
interface Standing {
  slot: string;
  variants: string;
  text: string;
  hidden: boolean;
}

/** Shows each visitor a page in one frame, and gives what stood there. */
async function look(page: Page, site: string, visits: readonly Visit[]): Promise<Standing[][]> {
  await page.goto(`/s/${site}/people`, { waitUntil: "networkidle" });
  await page.evaluate(await pageLineScript());
  const first = new URL(visits[0]!.url).pathname;
  const way = (await (await act(page, site, "wayTo", [first])).json()) as { by: string; origin: string };
  await page.evaluate(({ by, origin }) => {
    const frame = document.createElement("iframe");
    frame.name = "looked-at";
    frame.style.cssText = "position:fixed;inset:0;width:1280px;height:800px;z-index:9999;background:#fff";
    document.body.append(frame);
    const { pageLink } = (window as unknown as { line: typeof Line }).line;
    const link = pageLink(origin, by as "tag", () => frame.contentWindow);
    let turn = 0;
    Object.assign(window, {
      show: (url: string, pass: string) =>
        new Promise<void>((done, failed) => {
          const mine = ++turn;
          const hear = (event: MessageEvent) => {
            const message = link.read(event);
            if (message?.mirada === "trouble") failed(new Error(message.says));
            if (message?.mirada !== "ready" || message.turn !== mine) return;
            window.removeEventListener("message", hear);
            clearTimeout(timer);
            // A page may still be drawing itself.
            requestAnimationFrame(() => setTimeout(done, 40));
          };
          const timer = setTimeout(() => failed(new Error(`${url} did not answer`)), 15_000);
          window.addEventListener("message", hear);
          const address = link.look({ url, pass, turn: mine });
          if (address) frame.src = address;
        }),
    });
  }, way);
  const out: Standing[][] = [];
  for (const visit of visits) {
    const pass = (await (await act(page, site, "pass", [{ visit, source: "draft", pins: {} }])).json()) as string;
    await page.evaluate(
      ([url, pass]) => (window as unknown as { show: (url: string, pass: string) => Promise<void> }).show(url!, pass!),
      [visit.url, pass],
    );
    const frame = page.frames().find((one) => one.name() === "looked-at")!;
    out.push(
      await frame.evaluate(() =>
        [...document.querySelectorAll<HTMLElement>("[data-mirada-slot]")].map((place) => ({
          slot: place.dataset.miradaSlot as string,
          variants: place.dataset.miradaVariants ?? "",
          text: (place.textContent ?? "").replace(/\s+/g, " "),
          hidden: getComputedStyle(place).display === "none",
        })),
      ),
    );
  }
  return out;
}

/** In how much the pages differ from what the engine says, and how many places were compared. */
function compare(
  ruleset: Ruleset,
  visits: readonly Visit[],
  seen: readonly Standing[][],
): { wrong: string[]; compared: number; kinds: number } {
  const engine = createEngine(ruleset);
  const wrong: string[] = [];
  let compared = 0;
  const kinds = new Set<string>();
  for (const [index, visit] of visits.entries()) {
    const { slots } = engine.decide(visit);
    for (const { slot, variants, text, hidden } of seen[index] ?? []) {
      const said = slots[slot];
      if (!said) {
        // A place for which there is no slot on this page: nothing is put in.
        if (variants !== "") wrong.push(`${visit.url}: ${slot} shows ${variants}, and is no slot there`);
        continue;
      }
      compared += 1;
      const wanted = said.map((item) => item.variant ?? "").join(" ");
      kinds.add(`${slot} ${wanted}`);
      if (variants !== wanted)
        wrong.push(`${visit.url} ${JSON.stringify(visit)}: ${slot} shows ${variants}, not ${wanted}`);
      for (const { content } of said) {
        if (!content) continue;
        if (content.type === "@hidden" && !hidden) wrong.push(`${visit.url}: ${slot} is not hidden`);
        const texts =
          content.type === ownType
            ? changesOf({ ...content, tokens: {} }).flatMap((change) => change.text ?? [])
            : isPagesOwn(content)
              ? []
              : [content.fields.text].filter(
                  (value): value is string => typeof value === "string" && !value.includes("<"),
                );
        for (const one of texts)
          if (!text.includes(one.replace(/\s+/g, " ")))
            wrong.push(`${visit.url}: ${slot} says “${text}”, not “${one}”`);
      }
    }
  }
  return { wrong, compared, kinds: kinds.size };
}

const draftOf = async (page: Page, site: string): Promise<Ruleset> => {
  const news = (await (await act(page, site, "news", [-1, ""])).json()) as { draft: { ruleset: SiteDraft } };
  return runnable(rulesetOf(news.draft.ruleset)).ruleset;
};

async function sameOn(
  page: Page,
  site: string,
  origin: string,
  paths: readonly string[],
  least: number,
): Promise<void> {
  // Page after page: each is opened once, and then looked at through one visitor after the other.
  const visits = visitors()
    .map((visit, index) => ({
      ...visit,
      url: `${origin}${paths[index % paths.length]}${queries[(index * 7) % queries.length]}`,
    }))
    .sort((a, b) => (a.url < b.url ? -1 : 1));
  const seen = await look(page, site, visits);
  const { wrong, compared, kinds } = compare(await draftOf(page, site), visits, seen);
  console.log(
    `${site}: ${visits.length} pairs, ${compared} places compared, ${kinds} outcomes, ${wrong.length} differences`,
  );
  expect(wrong.slice(0, 3)).toEqual([]);
  expect(compared).toBeGreaterThanOrEqual(pairs);
  expect(kinds).toBeGreaterThanOrEqual(least);
}

test("in the same process", async ({ page }) => {
  test.setTimeout(240_000);
  const origin = `http://brackenfold.localhost:${shopPort}`;
  const sitemap = await visitShop("/sitemap.xml");
  const paths = [...sitemap.matchAll(/<loc>[^<]*?:\/\/[^/<]+([^<]*)<\/loc>/g)].map((found) => found[1] || "/");
  expect(paths.length).toBeGreaterThan(5);
  await sameOn(page, "brackenfold", origin, paths, 8);
});

test("static pages with the tag", async ({ page }) => {
  test.setTimeout(240_000);
  await sameOn(page, "stone-and-moss", `http://stone-and-moss.localhost:${port + 20}`, ["/stones", "/about"], 4);
});

test("pages drawn in the browser that refuse frames, in the mirror", async ({ page }) => {
  test.setTimeout(240_000);
  const origin = `http://lantern-quay.localhost:${port + 20}`;
  const post = (name: string, data: unknown[]) =>
    page.request.post(`/act/${name}`, { headers: { origin: `http://localhost:${port}` }, data });
  const site = `quay-${crypto.randomUUID().slice(0, 8)}`;
  expect(
    await (
      await post("makeSite", [
        { name: "Quay", id: site, origin, zone: "Europe/Lisbon", currency: "EUR", language: "en", copyOf: "" },
      ])
    ).json(),
  ).toMatchObject({ ok: true });
  const arms = (content: object) => [{ id: "a", weight: 100, content: { fields: {}, tokens: {}, ...content } }];
  const own = (...changes: object[]) => arms({ type: ownType, fields: { changes } });
  const slot = (id: string, selector: string, how: string, variants: object[]) => ({
    id,
    name: id,
    pages: null,
    at: { selector, how },
    take: 1,
    fallback: null,
    variants,
  });
  const when = (signal: string, op: string, value: unknown) => ({ signal, op, value });
  const items = [
    slot("heading", "main h1", "replace", [
      {
        id: "letter",
        name: "L",
        on: true,
        rule: when("campaign.source", "is", "letter"),
        arms: own({ part: "", text: "Dear reader" }),
      },
      {
        id: "phone",
        name: "P",
        on: true,
        rule: when("device.kind", "isOneOf", ["phone"]),
        arms: own({ part: "", text: "Small" }),
      },
    ]),
    slot("footer", "footer", "replace", [
      {
        id: "gone",
        name: "G",
        on: true,
        rule: when("place", "isIn", [{ country: "DE" }]),
        arms: arms({ type: "@hidden" }),
      },
    ]),
    slot("note", "main", "first", [
      {
        id: "winter",
        name: "W",
        on: true,
        rule: when("campaign.name", "is", "winter"),
        arms: arms({ type: "notice", fields: { text: "Open all winter long" } }),
      },
    ]),
  ];
  const edits = items.map((item, index) => ({ do: "insert", list: ["slots"], index, item }));
  expect((await act(page, site, "change", ["Three slots", edits, crypto.randomUUID()])).ok()).toBe(true);
  await sameOn(page, site, origin, ["/", "/rooms", "/boats", "/contact", "/rooms/attic"], 6);
  await post("archiveSite", [site, true]);
  await post("deleteSite", [site, "Quay"]);
});
