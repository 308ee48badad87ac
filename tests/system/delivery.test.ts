/** The delivery server over a real PostgreSQL: keys, origins, ETag, events, and what it says to bad requests. */
import { randomUUID } from "node:crypto";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { Validator } from "@seriousme/openapi-schema-validator";
import { ruleset, site, variant } from "@/core/testing";
import type { SiteDraft } from "@/core/formats/site-draft";
import { deliverySettings, saveDelivery } from "@/data/delivery";
import { createSite, loadDraft } from "@/data/draft";
import { keepEvents, tendPartitions } from "@/data/events";
import { endKey, listKeys, makeKey } from "@/data/keys";
import { migrate } from "@/data/migrate";
import type { SignedIn } from "@/data/people";
import { allSites, pool, transaction } from "@/data/pool";
import { countedApart, resultRows } from "@/data/results";
import { EventQueue, eventQueue } from "@/delivery/events";
import { writeReceipts } from "@/delivery/receipts";
import { deliveryServer } from "@/delivery/http/server";
import { pause, returnTo } from "@/server/releases";
import { askForReview } from "@/server/reviews";
import { changeDraft } from "@/server/draft";
import { everything, somebody, uniqueId } from "./support";
import { now, nowText } from "@/clock";

const id = uniqueId("delivery");
const block = (text: string) => [{ id: "a", weight: 100, content: { type: "n", fields: { text } } }];
const first: SiteDraft = {
  ...ruleset({
    site: { ...site, id },
    blockTypes: [{ id: "n", name: "Note", fields: [{ id: "text", name: "Text", kind: "line" }] }],
    slots: [
      {
        id: "s",
        name: "S",
        variants: [
          variant("mail", { signal: "campaign.source", op: "is", value: "mossmail" }, { arms: block("Hello, reader") }),
          variant("all", null, { arms: block("Hello") }),
        ],
      },
    ],
    popups: [
      {
        id: "p",
        name: "P",
        opensAfter: { leaving: true },
        size: { width: 300, height: 200 },
        arms: block("Wait"),
        cap: { times: 1, per: "ever" },
      },
    ],
  }),
  library: [],
  picks: [],
};
let one: SignedIn;
let secret: string;
let open: string;
let app: Awaited<ReturnType<typeof deliveryServer>>;
const origin = "https://partner.example";
const visit = (query = "") => ({ at: "2026-11-24T10:15:00Z", url: `https://shop.example/${query}` });
const decide = (payload: unknown, key = secret) =>
  app.inject({
    method: "POST",
    url: "/v1/decide",
    headers: { authorization: `Bearer ${key}`, "content-type": "application/json" },
    payload: JSON.stringify(payload),
  });
const ask = (payload: object, headers: Record<string, string> = { origin }) =>
  app.inject({
    method: "POST",
    url: "/v1/page",
    headers: { "content-type": "text/plain", ...headers },
    payload: JSON.stringify({ key: open, url: "https://partner.example/moss", ...payload }),
  });
const event = (more: object = {}) => ({
  id: randomUUID(),
  kind: "exposure",
  slot: "s",
  variant: "all",
  arm: "a",
  first: true,
  source: "direct",
  ...more,
});
const written = async () =>
  Number((await everything.query("select count(*) from events where site = $1", [id])).rows[0].count);
const sum = async () =>
  (
    await everything.query(
      "select coalesce(sum(count), 0)::int as count, coalesce(sum(firsts), 0)::int as firsts from event_hours where site = $1",
      [id],
    )
  ).rows[0];

describe("the delivery server", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) => createSite(first, db));
    await saveDelivery(id, "secondPerson", false);
    await saveDelivery(id, "origins", [origin]);
    one = await somebody(id, "one");
    await transaction(allSites, async (db) => {
      secret = await makeKey(id, "secret", "a server", one.id, db);
      open = await makeKey(id, "public", "a page", one.id, db);
      await tendPartitions(db);
    });
    await askForReview(one, { note: "", version: (await loadDraft(id))!.version, reason: "", live: true });
    app = await deliveryServer({ address: "http://localhost:4301", perMinute: 60 });
  });
  afterAll(async () => {
    await app.close();
    await eventQueue().drain(2000);
    await pool().end();
  });

  it("decides a visit, and says what it was decided under", async () => {
    const answer = await decide({ visit: visit("?utm_source=Mossmail") });
    expect(answer.statusCode).toBe(200);
    expect(answer.json()).toMatchObject({ release: 1, decision: { slots: { s: [{ variant: "mail", arm: "a" }] } } });
    expect((await decide({ visit: visit(), trace: true })).json().decision.trace.slots[0].variants).toHaveLength(2);
  });

  it("counts a pop-up once it has opened: by a page with its note, by a server with its memory", async () => {
    const tell = (payload: object, headers: Record<string, string> = { origin }) =>
      app.inject({
        method: "POST",
        url: "/v1/opened",
        headers: { "content-type": "text/plain", ...headers },
        payload: JSON.stringify(payload),
      });
    const one = (await ask({ consent: true })).json();
    expect([one.popup.id, typeof one.openNote]).toEqual(["p", "string"]);
    // Not opened on two pages: it is there on both. Without consent nothing can be counted, and there is no note.
    const two = (await ask({ consent: true, remember: one.remember })).json();
    expect(two.popup.id).toBe("p");
    expect((await ask({})).json()).not.toHaveProperty("openNote");
    const opened = (await tell({ key: open, note: two.openNote, remember: two.remember })).json();
    expect((await ask({ consent: true, remember: opened.remember })).json().popup).toBeNull();
    expect((await tell({ key: open, note: two.openNote, remember: opened.remember })).json()).toEqual({});
    // Another visitor's note counts nothing.
    const other = (await ask({ consent: true })).json();
    expect((await tell({ key: open, note: two.openNote, remember: other.remember })).json()).toEqual({});
    expect((await tell({ key: open, note: two.openNote })).statusCode).toBe(400);
    expect((await tell({ key: open, note: "", remember: "" }, { origin: "https://other.example" })).statusCode).toBe(
      403,
    );

    const known = { ...visit(), consent: true, visitorId: "v" };
    const decided = (await decide({ visit: known, countPopups: "opened" })).json().decision;
    const counted = await tell(
      { popup: decided.popup.id, decided: known.at, memory: decided.memory },
      { authorization: `Bearer ${secret}` },
    );
    const popupOf = async (memory: unknown) => (await decide({ visit: { ...known, memory } })).json().decision.popup;
    expect((await popupOf(decided.memory))?.id).toBe("p");
    expect(await popupOf(counted.json().memory)).toBeNull();
    expect((await decide({ visit: visit(), countPopups: "never" })).json().problems[0].path).toBe("/countPopups");
  });

  it("answers problems by RFC 9457, at the place where they were made", async () => {
    for (const [payload, status, path] of [
      [{ visit: { at: "yesterday", url: "https://shop.example/" } }, 400, "/visit/at"],
      [{ visit: { ...visit(), place: { country: 7 } } }, 400, "/visit/place/country"],
      [{ visit: visit(), tracing: true }, 400, "/tracing"],
    ] as const) {
      const answer = await decide(payload);
      expect([answer.statusCode, answer.headers["content-type"]]).toEqual([status, "application/problem+json"]);
      expect(answer.json()).toMatchObject({ type: "about:blank", status, problems: [{ path }] });
    }
    const broken = await app.inject({
      method: "POST",
      url: "/v1/decide",
      headers: { authorization: `Bearer ${secret}`, "content-type": "application/json" },
      payload: "{",
    });
    expect([broken.statusCode, broken.json().title]).toEqual([400, "The body could not be understood"]);
    const long = await decide({ visit: { ...visit(), userAgent: "x".repeat(70_000) } });
    expect([long.statusCode, long.json().title]).toEqual([413, "The body is longer than 64 kB"]);
    expect((await app.inject({ url: "/v2" })).json()).toMatchObject({ status: 404, title: "There is no such address" });
  });

  it("answers only with a good key of the right kind", async () => {
    for (const key of [
      "",
      "nonsense",
      open,
      secret.slice(0, -1) + (secret.endsWith("0") ? "1" : "0"),
      `server_other_${"0".repeat(60)}`,
    ]) {
      const answer = await decide({ visit: visit() }, key);
      expect([key, answer.statusCode]).toEqual([key, 401]);
      expect(answer.headers["www-authenticate"]).toBe("Bearer");
    }
    const extra = await transaction(allSites, (db) => makeKey(id, "secret", "for a while", one.id, db));
    await expect.poll(async () => (await decide({ visit: visit() }, extra)).statusCode, { timeout: 15_000 }).toBe(200);
    const known = (await listKeys(id)).find((key) => key.name === "for a while");
    await transaction(allSites, (db) => endKey(id, known!.id, db));
    await expect.poll(async () => (await decide({ visit: visit() }, extra)).statusCode, { timeout: 15_000 }).toBe(401);
  });

  it("hands out the live ruleset with an ETag that changes with a release and with a pause", async () => {
    const fetch = (tag?: string) =>
      app.inject({
        url: "/v1/ruleset",
        headers: { authorization: `Bearer ${secret}`, ...(tag ? { "if-none-match": tag } : {}) },
      });
    const answer = await fetch();
    expect(answer.json()).toMatchObject({ format: "mirada-ruleset/1", site: { id } });
    const tag = String(answer.headers.etag);
    expect((await fetch(tag)).statusCode).toBe(304);
    expect((await fetch(`"other", W/${tag}`)).statusCode).toBe(304);
    await pause(one, { kind: "variant", id: "mail" }, "a mistake in it");
    await expect.poll(async () => (await fetch(tag)).statusCode, { timeout: 15_000, interval: 20 }).toBe(200);
    expect((await decide({ visit: visit("?utm_source=mossmail") })).json().decision.slots.s[0].variant).toBe("all");
    await pause(one, { kind: "variant", id: "mail" }, null);
    await expect
      .poll(async () => (await decide({ visit: visit("?utm_source=mossmail") })).json().decision.slots.s[0].variant, {
        timeout: 15_000,
        interval: 20,
      })
      .toBe("mail");
  });

  it("goes back to an earlier release in one step", async () => {
    const slot = (await loadDraft(id))!.ruleset.slots[0]!;
    await changeDraft(one, "the first switched off", [
      { do: "set", at: ["slots", "s", "variants", "mail", "on"], before: slot.variants[0]!.on, after: false },
    ]);
    expect(
      await askForReview(one, { note: "second", version: (await loadDraft(id))!.version, reason: "", live: true }),
    ).toMatchObject({ ok: true, release: 2 });
    const shown = async () =>
      (await decide({ visit: visit("?utm_source=mossmail") })).json().decision.slots.s[0].variant;
    await expect.poll(shown, { timeout: 15_000, interval: 20 }).toBe("all");
    expect(await returnTo(one, 1, "the second was wrong")).toEqual({ ok: true, release: 1 });
    await expect.poll(shown, { timeout: 15_000, interval: 20 }).toBe("mail");
    expect(await returnTo(one, 1, "again")).toMatchObject({ ok: false });
    expect(await returnTo(one, 99, "none")).toMatchObject({ ok: false });
  });

  it("answers pages of allowed origins alone, and remembers with consent alone", async () => {
    const answer = await ask({});
    expect(answer.headers["access-control-allow-origin"]).toBe(origin);
    expect(answer.json()).toMatchObject({
      slots: { s: [{ variant: "all" }] },
      source: "direct",
      kinds: { n: [{ id: "text", kind: "line" }] },
    });
    expect(answer.json()).not.toHaveProperty("remember");
    for (const headers of [
      { origin: "https://evil.example" },
      { origin: "null" },
      { origin: `${origin}.evil.example` },
      {} as Record<string, string>,
    ]) {
      const refused = await ask({}, headers);
      expect([headers, refused.statusCode, refused.headers["access-control-allow-origin"]]).toEqual([
        headers,
        403,
        undefined,
      ]);
    }
    expect((await ask({ key: secret })).statusCode).toBe(401);
    const remember = (await ask({ consent: true })).json().remember as string;
    expect(remember).toMatch(/^v-/);
    const again = (await ask({ consent: true, remember })).json().remember as string;
    expect(again.split(".")[0]).toBe(remember.split(".")[0]);
    // By what the visit is grouped: its source, its campaign, and whether the visitor, who is remembered, was there before.
    const letter = {
      url: "https://partner.example/moss?utm_source=Mossmail&utm_campaign=Winter|light",
      consent: true,
    };
    expect((await ask(letter)).json().source).toBe("mossmail|winter light|new");
    // A forged memory is none: the visitor is a new one.
    const forged = (await ask({ consent: true, remember: `${remember.slice(0, -2)}zz` })).json().remember as string;
    expect(forged.split(".")[0]).not.toBe(remember.split(".")[0]);
    expect((await ask({ consent: true, remember }, { origin, "sec-gpc": "1" })).json().remember).toBeNull();
    expect((await ask({ url: "javascript:alert(1)" })).statusCode).toBe(400);
    const before = await app.inject({
      method: "OPTIONS",
      url: "/v1/page",
      headers: { origin, "access-control-request-method": "POST" },
    });
    expect([before.statusCode, before.headers["access-control-allow-methods"]]).toEqual([204, "POST"]);
  });

  it("takes events, counts one that was sent twice once, and says which are too far off", async () => {
    const send = (events: unknown[], more: object = { key: open }) =>
      app.inject({
        method: "POST",
        url: "/v1/events",
        headers: { origin, "content-type": "text/plain" },
        payload: JSON.stringify({ ...more, events }),
      });
    const twice = event();
    const answer = await send([twice, event({ kind: "click", name: "/ferns" }), event({ at: "2020-01-01T00:00:00Z" })]);
    expect([answer.statusCode, answer.json()]).toEqual([202, { taken: 2, late: 1 }]);
    await send([twice]);
    await eventQueue().drain(5000);
    expect(await written()).toBe(2);
    expect(await sum()).toEqual({ count: 2, firsts: 2 });
    expect((await send([event({ kind: "sale" })])).json().problems[0].path).toBe("/events/0/kind");
    expect((await send([event({ visitor: "somebody" })])).statusCode).toBe(400);
    // What no database can keep is refused at its place, or left out of what only says more.
    expect((await send([event({ slot: "s\0" })])).json().problems[0].path).toBe("/events/0/slot");
    expect((await send([event({ arm: "\ud800" })])).json().problems[0].path).toBe("/events/0/arm");
    const row = (await everything.query("select * from events where site = $1 limit 1", [id])).rows[0];
    expect(Object.keys(row).sort()).toEqual([
      "apart",
      "arm",
      "at",
      "campaign",
      "country",
      "day",
      "device",
      "first",
      "id",
      "kind",
      "language",
      "name",
      "site",
      "slot",
      "source",
      "system",
      "value",
      "variant",
      "visits",
    ]);
  });

  it("counts by a good receipt, once; what is told again, forged, foreign or late counts apart, or not at all", async () => {
    const name = { slot: "s", variant: "all", arm: "a" };
    const shown = (await ask({ consent: true })).json().receipts as Record<string, string>;
    const receipt = shown["s/all/a"];
    expect(shown["popup:p/p/a"]).toBeTruthy();
    const stranger = (await ask({})).json().receipts["s/all/a"] as string;
    const { secret: sign } = await deliverySettings(id);
    const made = (at: number, where = id, key: Uint8Array = sign) =>
      writeReceipts(where, [name], { kind: "v", at, secret: key })["s/all/a"] as string;
    const day = 86_400_000;
    let by = "Mozilla/5.0 (X11; Linux x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36";
    const counts = async () => {
      await eventQueue().drain(5000);
      const found = await everything.query(
        "select apart, kind, sum(count)::int as count, sum(firsts)::int as firsts from event_hours where site = $1 group by 1, 2",
        [id],
      );
      return Object.fromEntries(
        found.rows.map((row: { apart: string; kind: string; count: number; firsts: number }) => [
          `${row.apart} ${row.kind}`,
          [row.count, row.firsts],
        ]),
      ) as Record<string, [number, number] | undefined>;
    };
    const send = (...events: object[]) =>
      app.inject({
        method: "POST",
        url: "/v1/events",
        headers: { origin, "content-type": "text/plain", "user-agent": by },
        payload: JSON.stringify({ key: open, events }),
      });
    const more = async (...events: object[]) => {
      const before = await counts();
      await send(...events);
      const after = await counts();
      return Object.fromEntries(
        Object.entries(after).flatMap(([key, now]) => {
          const [count, firsts] = [0, 1].map((at) => (now?.[at] ?? 0) - (before[key]?.[at] ?? 0));
          return count === 0 ? [] : [[key, [count, firsts]]];
        }),
      );
    };
    expect(await more(event({ receipt }))).toEqual({ " exposure": [1, 1] });
    // Told again under other ids and times, in one request and in the next.
    const again = () => event({ receipt, at: new Date(now() - 2 * day).toISOString() });
    expect(await more(again(), again())).toEqual({});
    expect(await more(event({ receipt: stranger }))).toEqual({ " exposure": [1, 0] });
    const order = (with_: object) => event({ kind: "conversion", name: "order", value: 500, ...with_ });
    expect(await more(order({ receipt }), order({ receipt }), order({ receipt, n: 1 }))).toEqual({
      " conversion": [2, 1],
    });
    expect(await more(order({ receipt: made(now() - 20 * day) }))).toEqual({ " conversion": [1, 1] });
    const bad = [
      undefined,
      `${receipt?.slice(0, -1)}${receipt?.endsWith("A") ? "B" : "A"}`,
      shown["popup:p/p/a"],
      made(now() - 31 * day),
      made(now() + day),
      made(now(), "another-site"),
      made(now(), id, new Uint8Array(32)),
    ];
    expect(await more(...bad.map((one) => event({ receipt: one })))).toEqual({ "receipt exposure": [7, 7] });
    // What results are made of has none of it.
    const [from, until] = [-40, 2].map((days) => new Date(now() + days * day).toISOString().slice(0, 10));
    const rows = await resultRows(id, "s", from!, until!);
    const seen = rows.filter((row) => row.of === "day" && row.kind === "exposure");
    expect(seen.reduce((sum, row) => sum + row.count, 0)).toBe((await counts())[" exposure"]?.[0]);
    expect(await countedApart(id, "s", from!, until!)).toContainEqual({
      apart: "receipt",
      kind: "exposure",
      count: (await counts())["receipt exposure"]?.[0],
    });
    // A server’s own pages may have them, too.
    const served = await decide({ visit: { ...visit(), consent: true, visitorId: "v-1" }, receipts: true });
    expect(await more(event({ receipt: served.json().receipts["s/all/a"] }))).toEqual({ " exposure": [1, 1] });
    expect((await decide({ visit: visit() })).json()).not.toHaveProperty("receipts");
    by = "Mozilla/5.0 (compatible; SomeBot/2.0; +http://bot.example/)";
    expect(await more(event({ receipt: made(now()) }))).toEqual({ "bot exposure": [1, 1] });
  });

  it("one event that can never be written keeps no other from being written", async () => {
    const queue = new EventQueue(1000, 100, 5, keepEvents);
    const kept = (more: object) =>
      ({ ...(event() as object), name: "", value: 0, country: "", device: "", at: nowText(), ...more }) as never;
    const before = await written();
    queue.take(id, [kept({}), kept({ name: "a\u0000b" }), kept({}), kept({})]);
    await queue.drain(5000);
    expect([await written(), queue.counts.dropped, queue.waiting]).toEqual([before + 3, 1, 0]);
    const small = new EventQueue(2);
    expect([small.take(id, [kept({}), kept({}), kept({})]), small.counts.refused, small.waiting]).toEqual([
      false,
      3,
      0,
    ]);
  });

  it("limits how often one address may ask by script, and nobody else", async () => {
    let limited = 0;
    for (let count = 0; count < 80; count++) if ((await ask({})).statusCode === 429) limited += 1;
    expect(limited).toBeGreaterThan(0);
    const last = await ask({});
    expect([last.statusCode, last.headers["content-type"], Number(last.headers["retry-after"]) > 0]).toEqual([
      429,
      "application/problem+json",
      true,
    ]);
    expect((await decide({ visit: visit() })).statusCode).toBe(200);
  });

  it("describes itself by OpenAPI 3.1, and the description is one", async () => {
    const description = (await app.inject({ url: "/openapi.json" })).json();
    expect(description.openapi).toBe("3.1.0");
    // Source: the OpenAPI 3.1 schema, as @seriousme/openapi-schema-validator carries it.
    expect((await new Validator().validate(description)).errors).toBeUndefined();
    expect((await app.inject({ url: "/health" })).json()).toEqual({ ok: true });
    expect((await app.inject({ url: "/metrics" })).body).toContain(
      'mirada_requests_total{route="/v1/decide",status="200"}',
    );
  });
});
