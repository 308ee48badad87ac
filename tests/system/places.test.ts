/** Pages of a website of this test's, as the server looks at them: where slots are, what has changed, what the tag's door answers. */
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ruleset, site, variant } from "@/core/testing";
import { answerDiffers } from "@/core/checks/site";
import { createEngine } from "@/core/decision/engine";
import { rulesetOf } from "@/core/draft/picks";
import type { Check } from "@/core/formats/check";
import { countDrift, forgetDrift, listDrift, readLook, sitesToLookAt } from "@/data/drift";
import { createSite } from "@/data/draft";
import { makeKey } from "@/data/keys";
import { migrate } from "@/data/migrate";
import { addPages } from "@/data/pages";
import { makePass } from "@/data/passes";
import type { SignedIn } from "@/data/people";
import { allSites, of, pool, transaction } from "@/data/pool";
import { putLive } from "@/data/releases";
import { setOrigins } from "@/data/sites";
import { deliveryServer } from "@/delivery/http/server";
import { askPage } from "@/server/ask-page";
import { driftNow, lookAtAll } from "@/server/drift";
import { lookAtPages, searchPlace } from "@/server/place-search";
import { everything, somebody, uniqueId } from "./support";

const id = uniqueId("places");
const lorem = "A page with enough words on it to be taken for one that the server has written, and no script.".repeat(
  2,
);
let who: SignedIn;
let web: Server;
let origin: string;
let key: string;
let delivery: Awaited<ReturnType<typeof deliveryServer>>;
/** What is put on the first page by and by. */
let more = "";
const tagged = (body: string) =>
  `<!doctype html><html><head><script src="http://x/v1/page.js" data-key="${key}"></script></head><body>${body}<p>${lorem}</p></body></html>`;
const pages: Record<string, () => string> = {
  "/": () => tagged(`<main><h1 class="title">Rooms with a view</h1>${more}</main>`),
  "/changed": () => tagged('<main><h1 class="title">Rooms</h1></main>'),
  "/two": () => tagged('<main><h1 class="title">One</h1><h1 class="title">Two</h1></main>'),
  "/none": () => tagged("<main></main>"),
  "/drawn": () => `<!doctype html><script src="http://x/v1/page.js" data-key="${key}"></script><div id="app"></div>`,
  "/untagged": () => "<!doctype html><h1 class=title>Rooms with a view</h1>",
};
const own = (was: string) => ({ type: "@own", fields: { changes: [{ part: "", was, text: "Rooms by the water" }] } });
const draft = () => ({
  ...ruleset({
    site: { ...site, id, origin },
    slots: [
      {
        id: "hero",
        name: "Heading",
        at: { selector: ".title", how: "replace" },
        variants: [
          variant(
            "letter",
            { signal: "campaign.source", op: "is", value: "letter" },
            {
              arms: [{ id: "a", weight: 100, content: own("Rooms with a view") }],
            },
          ),
        ],
      },
    ],
  }),
  library: [],
  picks: [],
});

beforeAll(async () => {
  process.env.MIRADA_PRIVATE_HOSTS = "yes";
  await migrate();
  web = createServer((request, response) => {
    const page = pages[new URL(request.url ?? "/", "http://x").pathname];
    response.writeHead(page ? 200 : 404, { "content-type": "text/html" }).end(page?.() ?? "no");
  });
  await new Promise<void>((ready) => web.listen(0, "127.0.0.1", ready));
  origin = `http://${id}.localhost:${(web.address() as AddressInfo).port}`;
  const made = draft();
  await transaction(allSites, async (db) => {
    await createSite(made, db);
    await setOrigins(id, [origin], null, db);
    key = await makeKey(id, "public", "The tag", "mirada", db);
    await addPages(
      id,
      Object.keys(pages).map((path) => ({ path, title: path, facts: {} })),
      db,
    );
    await putLive({ site: id, person: "mirada", note: "", ruleset: rulesetOf(made), sha256: "x", draftVersion: 1 }, db);
  });
  who = await somebody(id, "looker");
  delivery = await deliveryServer({ address: "http://localhost" });
  process.env.MIRADA_DELIVERY = await delivery.listen({ port: 0, host: "127.0.0.1" });
});
afterAll(async () => {
  await delivery.close();
  web.close();
  await pool().end();
});

describe("where a part stands on the site's pages", () => {
  it("is told page by page; a selector that is none is refused", async () => {
    const told = await searchPlace(id, ".title");
    expect("pages" in told && told.pages.map(({ path, found }) => `${path} ${found}`).sort()).toEqual(
      ["/ 1", "/changed 1", "/drawn 0", "/none 0", "/two 2", "/untagged 1"].sort(),
    );
    // The page that one points at is looked at as it is now, and among whatever many.
    const countHere = async (here?: string) => {
      const found = await searchPlace(id, ".fresh", here);
      return "pages" in found ? found.pages.find((page) => page.path === "/")?.found : undefined;
    };
    expect(await countHere()).toBe(0);
    more = '<p class="fresh">New</p>';
    expect([await countHere(), await countHere("/two"), await countHere("/")]).toEqual([0, 0, 1]);
    more = "";
    expect(await searchPlace(id, "main >")).toMatchObject({
      problem: expect.stringContaining("must be a CSS selector"),
    });
  });
});

describe("what has changed under a slot", () => {
  it("is a remark where it fits some pages, a fault where it fits none; pages drawn in the browser are not judged", async () => {
    const found = await lookAtPages(id, rulesetOf(draft()));
    expect(found.map(({ variant: of, proof, says }) => [of, proof, says])).toEqual([
      [
        undefined,
        "searched",
        "“Heading” does not fit /two: its place was found 2 times. The page’s own content stands there",
      ],
      [
        "letter",
        "searched",
        "“letter” in “Heading” does not fit /changed: it says “Rooms” where it said “Rooms with a view”. The page’s own content stands there",
      ],
    ]);
    const other = draft();
    other.slots[0]!.at!.selector = ".gone";
    // For readers of the letter alone: the pages are there for everybody else.
    const rule = { signal: "campaign.source", op: "is", value: "letter" };
    const to = (redirect: string, address: string, on = true) =>
      ruleset({ redirects: [{ id: redirect, name: redirect, rule, to: address, on }] }).redirects[0]!;
    other.redirects = [
      to("there", "/two"),
      to("lost", "/spring?x=1"),
      to("whole", `${origin}/lost`),
      to("off", "/off", false),
      to("told", "/{country}"),
      to("away", "https://other.example/x"),
    ];
    const [gone, ...lost] = await lookAtPages(id, rulesetOf(other));
    expect(lost.map(({ about, proof, says }) => [about?.id, proof, says]).sort()).toEqual([
      ["lost", "exact", "“lost” leads to /spring?x=1, which is not there: the site answers 404"],
      ["whole", "exact", "“whole” leads to /lost, which is not there: the site answers 404"],
    ]);
    expect(gone).toMatchObject({
      proof: "exact",
      says: expect.stringContaining("nor any page that was tried: its place was not found"),
    });
  });

  it("is looked for once a day by whichever process comes first", async () => {
    await lookAtAll();
    expect((await readLook(id))?.found).toHaveLength(2);
    expect(await sitesToLookAt()).not.toContain(id);
    await everything.query("update page_looks set at = now() - interval '25 hours' where site = $1", [id]);
    expect(await sitesToLookAt()).toContain(id);
  });

  it("is told by pages, counted, and forgotten when it is mended", async () => {
    const tell = (drifts: object[], more: object = {}) =>
      delivery.inject({
        method: "POST",
        url: "/v1/drift",
        headers: { "content-type": "text/plain", origin },
        payload: JSON.stringify({ key, path: "/changed", drifts, ...more }),
      });
    const one = { slot: "hero", variant: "letter", why: "the page has changed under this version" };
    expect((await tell([one])).json()).toEqual({ taken: 1 });
    expect((await tell([one, { ...one, slot: "made-up" }, { ...one, variant: "made-up" }])).json()).toEqual({
      taken: 1,
    });
    expect((await tell([])).statusCode).toBe(400);
    expect((await tell([one], { key: "page_x_y" })).statusCode).toBe(401);
    const { told } = await driftNow(id);
    expect(told).toMatchObject([{ path: "/changed", slot: "hero", variant: "letter", visitors: 2 }]);
    await forgetDrift(id, { path: "/changed", slot: "hero", variant: "letter" }, of(id));
    expect(await listDrift(id)).toEqual([]);
    // The same place twice in one message (a slot may have several) counts once.
    expect((await tell([one, one])).json()).toEqual({ taken: 2 });
    expect((await listDrift(id)).map(({ visitors }) => visitors)).toEqual([1]);
    // However many places somebody makes up, only so many are kept; of those that are, it goes on being counted.
    for (let batch = 0; batch < 15; batch++)
      await countDrift(
        id,
        Array.from({ length: 50 }, (_, index) => ({ ...one, path: `/p${batch}-${index}` })),
      );
    const all = await listDrift(id);
    expect(all.length).toBeGreaterThanOrEqual(500);
    expect(all.length).toBeLessThan(550);
    await countDrift(id, [{ ...one, path: "/p0-0" }]);
    expect((await listDrift(id)).find(({ path }) => path === "/p0-0")?.visitors).toBe(2);
  });
});

describe("a check asked of a site that carries the tag", () => {
  const check = (path: string, query = ""): Check => ({
    id: "c",
    name: "C",
    visit: { at: "2026-11-24T10:15:00Z", url: `${origin}${path}${query}`, consent: false },
    steps: [],
    expect: { slot: "hero", variant: "letter" },
  });
  const answered = async (path: string, query = "") => {
    const one = check(path, query);
    const pass = await makePass(id, who.session, { visit: one.visit, source: "live", pins: {} });
    const answer = await askPage(id, path, pass);
    const decision = createEngine(rulesetOf(draft())).decide(one.visit);
    return answer && { slots: answer.slots, words: answer.words, says: answerDiffers(one, decision, answer) };
  };
  it("is what the tag's door answers that page", async () => {
    expect(await answered("/", "?utm_source=letter")).toMatchObject({ slots: { hero: ["letter"] }, says: undefined });
    expect((await answered("/", "?utm_source=letter"))?.words).toContain("Rooms by the water");
    expect(await answered("/")).toMatchObject({ slots: { hero: [""] }, says: undefined });
    // Nothing is known of the places of a page that is drawn in the browser: then all that is answered counts.
    expect(await answered("/drawn", "?utm_source=letter")).toMatchObject({
      slots: { hero: ["letter"] },
      says: undefined,
    });
  });
  it("says why visitors get nothing of it", async () => {
    expect((await answered("/untagged"))?.says).toBe(
      "the page does not carry the tag, so visitors get its own content",
    );
    expect((await answered("/gone"))?.says).toBe("the site answered 404: there is no such page");
    const good = key;
    key = "page_other_key";
    expect((await answered("/"))?.says).toContain("has a key that is not good");
    key = good;
  });
});
