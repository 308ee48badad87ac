/** Whether a site is connected: where its tag stands, where it was heard from, and what is said when a page loses it. */
import { createServer, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ruleset, site } from "@/core/testing";
import { createSite } from "@/data/draft";
import { makeKey } from "@/data/keys";
import { migrate } from "@/data/migrate";
import { addPages } from "@/data/pages";
import { allSites, of, pool, transaction } from "@/data/pool";
import { setOrigins } from "@/data/sites";
import { listTagSeen } from "@/data/tag-seen";
import { flush } from "@/delivery/heard";
import { deliveryServer } from "@/delivery/http/server";
import { pageTag } from "@/script/tag";
import { heardOf, lookAtConnection, lookForLostTags } from "@/server/connection";
import { wayTo } from "@/server/way";
import { everything, somebody, uniqueId } from "./support";

const id = uniqueId("heard");
const delivery = "http://delivery.example:1";
let web: Server;
let origin: string;
let key: string;
let app: Awaited<ReturnType<typeof deliveryServer>>;
/** What stands in the head of each page, and its policy. */
const pages: Record<string, { head: () => string; policy?: string }> = {
  "/": { head: () => pageTag(delivery, key) },
  "/strict": { head: () => pageTag(delivery, key), policy: "default-src 'self'" },
  "/bare": { head: () => "" },
  "/others": { head: () => pageTag(delivery, `page_another-site_${"0".repeat(24)}`) },
};
const ask = (path: string, from = origin) =>
  app.inject({
    method: "POST",
    url: "/v1/page",
    headers: { "content-type": "text/plain", origin: from },
    payload: JSON.stringify({ key, url: `${origin}${path}` }),
  });

beforeAll(async () => {
  process.env.MIRADA_PRIVATE_HOSTS = "yes";
  process.env.MIRADA_DELIVERY = delivery;
  await migrate();
  web = createServer((request, response) => {
    const page = pages[request.url ?? ""];
    response.writeHead(page ? 200 : 404, {
      "content-type": "text/html",
      ...(page?.policy ? { "content-security-policy": page.policy } : {}),
    });
    response.end(`<!doctype html><html lang="de"><title>Rooms</title>${page?.head() ?? ""}<h1>Rooms</h1></html>`);
  });
  await new Promise<void>((ready) => web.listen(0, "127.0.0.1", ready));
  origin = `http://${id}.localhost:${(web.address() as AddressInfo).port}`;
  const draft = { ...ruleset({ site: { ...site, id, origin } }), library: [], picks: [] };
  await transaction(allSites, async (db) => {
    await createSite(draft, db);
    await setOrigins(id, [origin], null, db);
    await addPages(
      id,
      [...Object.keys(pages), "/gone"].map((path) => ({ path, title: path, facts: {} })),
      db,
    );
  });
  const who = await somebody(id, "builder");
  key = await transaction(id, (db) => makeKey(id, "public", "the tag", who.id, db));
  app = await deliveryServer({ address: delivery, perMinute: 1000 });
});
afterAll(async () => {
  delete process.env.MIRADA_DELIVERY;
  await app.close();
  web.close();
  await pool().end();
});

describe("whether a site is connected", () => {
  it("is told page by page, with what a policy keeps out", async () => {
    const found = await lookAtConnection(id);
    expect(found).toMatchObject({ pages: 5, address: { ok: true, title: "Rooms", language: "de", framed: true } });
    const of = (path: string) => found?.tried.find((page) => page.path === path);
    expect(of("/")).toEqual({ path: "/", state: "here" });
    expect(of("/strict")).toMatchObject({
      state: "here",
      keptOut: [
        expect.stringMatching(/^script-src 'self' 'sha256-/),
        `script-src 'self' ${delivery}`,
        `connect-src 'self' ${delivery}`,
      ],
    });
    expect(of("/bare")).toEqual({ path: "/bare", state: "none" });
    expect(of("/others")).toEqual({ path: "/others", state: "another" });
    expect(of("/gone")).toEqual({ path: "/gone", problem: "The site answered 404." });
  });

  it("is heard before anything is live, each page once, without its query", async () => {
    expect(await heardOf(id)).toEqual({ pages: 0, first: undefined, last: undefined, served: false, refused: [] });
    const answer = await ask("/?email=a@b.example");
    expect([answer.statusCode, answer.json().title]).toEqual([404, "Nothing is live yet"]);
    await ask("/");
    await flush();
    expect(await heardOf(id)).toMatchObject({ pages: 1, last: { path: "/" } });
    expect((await listTagSeen(id)).map(({ path }) => path)).toEqual(["/"]);
  });

  it("tells of origins that may not ask, until they may", async () => {
    expect((await ask("/", "https://www.elsewhere.example")).statusCode).toBe(403);
    expect((await ask("/", "null")).statusCode).toBe(403);
    await flush();
    expect((await heardOf(id)).refused).toMatchObject([{ origin: "https://www.elsewhere.example" }]);
    await of(id).query("update site_delivery set origins = '{https://www.elsewhere.example}' where site = $1", [id]);
    expect((await heardOf(id)).refused).toEqual([]);
  });

  it("keeps a bounded number of pages, the latest, and hears of no made-up site", async () => {
    await everything.query(
      "insert into tag_seen (site, path, last_at) select $1, '/made-up/' || n, now() - interval '2 days' from generate_series(1, 2500) n",
      [id],
    );
    await ask("/strict");
    await flush();
    const seen = await listTagSeen(id);
    expect(seen.length).toBe(2000);
    expect(seen.slice(0, 2).map(({ path }) => path)).toEqual(["/strict", "/"]);
    const made = await app.inject({
      method: "POST",
      url: "/v1/page",
      headers: { "content-type": "text/plain", origin },
      payload: JSON.stringify({ key: `page_no-such-site_${"0".repeat(24)}`, url: `${origin}/` }),
    });
    expect(made.statusCode).toBe(401);
  });

  it("says when a page that had the tag carries it no more, and looks at it by the mirror", async () => {
    expect(await wayTo(id, "/", { session: "s" })).toMatchObject({ by: "tag" });
    const { head } = pages["/"]!;
    pages["/"]!.head = () => "";
    const { session } = await somebody(id, "looker");
    expect(await wayTo(id, "/?a=b", { session })).toMatchObject({
      by: "mirror",
      why: "the page does not carry the tag any more",
    });
    expect(await wayTo(id, "/bare", { session })).toMatchObject({
      by: "mirror",
      why: "the page does not carry the tag yet",
    });
    // A tag that scripts put in does not stand in the page as it is served: while it is heard from, nothing is said.
    expect(await lookForLostTags(id, "Europe/Lisbon")).toEqual([]);
    await everything.query("update tag_seen set last_at = now() - interval '25 hours' where site = $1 and path = '/'", [
      id,
    ]);
    expect(await lookForLostTags(id, "Europe/Lisbon")).toMatchObject([
      { finding: "tag-gone", proof: "searched", says: expect.stringMatching(/^\/ no longer carries the tag/) },
    ]);
    pages["/"]!.head = pages["/others"]!.head;
    expect(await lookForLostTags(id, "Europe/Lisbon")).toMatchObject([{ finding: "tag-gone" }]);
    pages["/"]!.head = head;
    expect(await lookForLostTags(id, "Europe/Lisbon")).toEqual([]);
  });
});
