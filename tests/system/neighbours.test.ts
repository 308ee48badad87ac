/**
 * Two sites beside each other on one delivery server, alike in every id, so that whatever is kept under an id alone would be mixed
 * up: decisions, rulesets with their ETags, what visitors remember, notes, events, drift, pauses, figures.
 */
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ruleset, site, variant } from "@/core/testing";
import { saveDelivery } from "@/data/delivery";
import { createSite, loadDraft } from "@/data/draft";
import { listDrift } from "@/data/drift";
import { tendPartitions } from "@/data/events";
import { makeKey } from "@/data/keys";
import { migrate } from "@/data/migrate";
import type { SignedIn } from "@/data/people";
import { allSites, pool, transaction } from "@/data/pool";
import { countedSlots } from "@/data/results";
import { eventQueue } from "@/delivery/events";
import { deliveryServer } from "@/delivery/http/server";
import { pause } from "@/server/releases";
import { askForReview } from "@/server/reviews";
import { somebody, uniqueId } from "./support";

interface Neighbour {
  id: string;
  text: string;
  origin: string;
  who: SignedIn;
  secret: string;
  open: string;
}
let app: Awaited<ReturnType<typeof deliveryServer>>;
let one: Neighbour;
let two: Neighbour;

async function neighbour(text: string): Promise<Neighbour> {
  const id = uniqueId(text);
  const arms = [{ id: "a", weight: 100, content: { type: "n", fields: { text } } }];
  const draft = {
    ...ruleset({
      site: { ...site, id },
      blockTypes: [{ id: "n", name: "Note", fields: [{ id: "text", name: "Text", kind: "line" }] }],
      slots: [
        {
          id: "s",
          name: "S",
          variants: [variant("v", { signal: "query.x", op: "isAbsent" }, { arms }), variant("w", null, { arms })],
        },
      ],
      popups: [
        {
          id: "p",
          name: "P",
          opensAfter: { leaving: true },
          size: { width: 300, height: 200 },
          arms,
          cap: { times: 1, per: "ever" },
        },
      ],
    }),
    library: [],
    picks: [],
  };
  const origin = `https://${id}.example`;
  await transaction(allSites, (db) => createSite(draft, db));
  await saveDelivery(id, "secondPerson", false);
  await saveDelivery(id, "origins", [origin]);
  const who = await somebody(id, text);
  const [secret, open] = await transaction(allSites, async (db) => [
    await makeKey(id, "secret", "a server", who.id, db),
    await makeKey(id, "public", "a page", who.id, db),
  ]);
  const asked = await askForReview(who, { note: "", version: (await loadDraft(id))!.version, reason: "", live: true });
  expect(asked).toMatchObject({ ok: true });
  return { id, text, origin, who, secret: secret as string, open: open as string };
}

const post = (url: string, payload: object, headers: Record<string, string>) =>
  app.inject({
    method: "POST",
    url,
    headers: { "content-type": "text/plain", ...headers },
    payload: JSON.stringify(payload),
  });
const page = ({ open, origin }: Neighbour, more: object = {}, from = origin) =>
  post("/v1/page", { key: open, url: `${origin}/`, ...more }, { origin: from });
const decide = async ({ secret, origin }: Neighbour, more: object = {}) =>
  (
    await post(
      "/v1/decide",
      { visit: { at: "2026-11-24T10:15:00Z", url: `${origin}/`, ...more } },
      { authorization: `Bearer ${secret}`, "content-type": "application/json" },
    )
  ).json().decision;
const rulesetOf = ({ secret }: Neighbour, tag = "") =>
  app.inject({ url: "/v1/ruleset", headers: { authorization: `Bearer ${secret}`, "if-none-match": tag } });
const seen = async ({ id }: Neighbour) =>
  (await countedSlots(id, "2019-01-01", "2040-01-01")).find(({ slot }) => slot === "s")?.exposures ?? 0;

describe("two sites alike in every id", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) => tendPartitions(db));
    one = await neighbour("moss");
    two = await neighbour("stone");
    app = await deliveryServer({ address: "http://localhost:4301", perMinute: 10_000 });
  });
  afterAll(async () => {
    await app.close();
    await eventQueue().drain(2000);
    await pool().end();
  });

  it("get their own, whoever asks at the same time", async () => {
    const asked = Array.from({ length: 60 }, (_, index) => (index % 2 === 0 ? one : two));
    const texts = await Promise.all(
      asked.map(async (who, index) =>
        index % 3 === 0
          ? (await decide(who)).slots.s[0].content.fields.text
          : (await page(who)).json().slots.s[0].content.fields.text,
      ),
    );
    expect(texts).toEqual(asked.map(({ text }) => text));
  });

  it("may not ask from each other's pages, nor with each other's keys", async () => {
    expect((await page(one, {}, two.origin)).statusCode).toBe(403);
    expect((await page({ ...one, open: two.open })).statusCode).toBe(403);
    // A key names its site: one that is put together of both is good nowhere.
    const mixed = one.open.replace(one.id, two.id);
    expect(mixed).not.toBe(one.open);
    expect((await page({ ...two, open: mixed })).statusCode).toBe(401);
  });

  it("have rulesets, ETags and pauses of their own", async () => {
    const [first, second] = [await rulesetOf(one), await rulesetOf(two)];
    expect([first.json().site.id, second.json().site.id]).toEqual([one.id, two.id]);
    expect((await rulesetOf(one, String(first.headers.etag))).statusCode).toBe(304);
    expect((await rulesetOf(one, String(second.headers.etag))).statusCode).toBe(200);
    await pause(one.who, { kind: "variant", id: "v" }, "a mistake in it");
    await expect.poll(async () => (await decide(one)).slots.s[0].variant, { timeout: 15_000, interval: 20 }).toBe("w");
    expect((await decide(two)).slots.s[0].variant).toBe("v");
    expect((await rulesetOf(two, String(second.headers.etag))).statusCode).toBe(304);
  });

  it("believe nothing that the other has signed", async () => {
    const [here, there] = [(await page(one, { consent: true })).json(), (await page(two, { consent: true })).json()];
    const visitorOf = (remember: string) => remember.split(".")[0];
    const again = async (who: Neighbour, remember: string) =>
      visitorOf((await page(who, { consent: true, remember })).json().remember);
    expect(await again(one, here.remember)).toBe(visitorOf(here.remember));
    expect(await again(two, here.remember)).not.toBe(visitorOf(here.remember));
    const opened = (who: Neighbour, note: string, remember: string) =>
      post("/v1/opened", { key: who.open, note, remember }, { origin: who.origin });
    expect((await opened(two, here.openNote, there.remember)).json()).toEqual({});
    expect((await opened(two, there.openNote, there.remember)).json()).toHaveProperty("remember");
  });

  it("count their own events, also under the same id", async () => {
    const event = {
      id: randomUUID(),
      kind: "exposure",
      slot: "s",
      variant: "v",
      arm: "a",
      first: true,
      source: "direct",
    };
    const browser =
      "Mozilla/5.0 (X11; Linux x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36";
    const send = (who: Neighbour, of: object[]) =>
      post("/v1/events", { key: who.open, events: of }, { origin: who.origin, "user-agent": browser });
    /** What was shown of the slot to somebody new, as an event tells it. */
    const shown = async (who: Neighbour) => {
      const { receipts } = (await page(who, { consent: true })).json() as { receipts: Record<string, string> };
      const [name = "", receipt] = Object.entries(receipts).find(([key]) => key.startsWith("s/")) ?? [];
      const [slot, variant, arm] = name.split("/");
      return { ...event, slot, variant, arm, receipt };
    };
    const [first, second] = [await shown(one), { ...(await shown(one)), id: randomUUID() }];
    expect((await send(one, [first, second])).json().taken).toBe(2);
    // By what the other showed nothing counts here.
    expect((await send(two, [await shown(two), first, second])).json().taken).toBe(3);
    expect((await post("/v1/events", { key: one.open, events: [event] }, { origin: two.origin })).statusCode).toBe(403);
    await eventQueue().drain(5000);
    expect([await seen(one), await seen(two)]).toEqual([2, 1]);
  });

  it("hear of their own pages alone", async () => {
    const drifts = [{ slot: "s", variant: "v", why: "the page has changed under this version" }];
    await post("/v1/drift", { key: one.open, path: "/", drifts }, { origin: one.origin });
    expect([(await listDrift(one.id)).length, (await listDrift(two.id)).length]).toEqual([1, 0]);
  });

  it("are named by no figure that the server tells", async () => {
    const { body } = await app.inject({ url: "/metrics" });
    expect(body).toContain("mirada_requests_total");
    for (const { id, origin, open } of [one, two])
      for (const text of [id, origin, open]) expect(body).not.toContain(text);
  });
});
