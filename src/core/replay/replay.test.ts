import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { ruleset, variant } from "../testing";
import type { Address } from "../visit/address";
import { LogReader } from "./log-line";
import { isPageView } from "./page-view";
import { Replay, type ReplayOptions } from "./replay";
import { LineShares, type Lines } from "./shares";
import { addShares, resultOf, type CountKey, type Tally } from "./tally";

const agent =
  "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36";
const phone =
  "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1";
const encoder = new TextEncoder();
const decoder = new TextDecoder();
const two = (n: number) => String(n).padStart(2, "0");
const months = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const stamp = (at: number) => {
  const d = new Date(at);
  return `${two(d.getUTCDate())}/${months[d.getUTCMonth()]}/${d.getUTCFullYear()}:${two(d.getUTCHours())}:${two(d.getUTCMinutes())}:${two(d.getUTCSeconds())} +0000`;
};
const start = Date.UTC(2026, 10, 24, 9, 0);
const log = (
  target: string,
  more: { at?: number; ip?: string; ua?: string; ref?: string; method?: string; status?: number } = {},
) =>
  `${more.ip ?? "192.0.2.1"} - - [${stamp(start + (more.at ?? 0) * 60_000)}] "${more.method ?? "GET"} ${target} HTTP/1.1" ${more.status ?? 200} 512 "${more.ref ?? "-"}" "${more.ua ?? agent}"`;
const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const clinic = when("time", "within", { zone: "site", days: ["TU"], windows: [{ start: "10:00", end: "12:00" }] });
const rules = ruleset({
  slots: [
    {
      id: "hero",
      name: "Hero",
      variants: [
        variant("clinic", clinic),
        variant("mail", when("campaign.source", "is", "postbox")),
        variant("phone", when("device.kind", "is", "phone")),
      ],
    },
    {
      id: "ferns",
      name: "Ferns",
      pages: when("page.path", "startsWith", "/ferns"),
      variants: [variant("again", when("history.views", "gt", 1))],
    },
  ],
  redirects: [{ id: "old", name: "Old", rule: when("page.path", "is", "/old"), to: "/" }],
});
const run = (lines: readonly string[], options: ReplayOptions = {}, of = rules) => {
  const replay = new Replay(of, options);
  for (const line of lines) replay.line(line);
  return replay.result();
};

describe("a line of an access log", () => {
  const read = (line: string) => new LogReader().read(line);
  it("is read by its places: the example of Apache's documentation", () => {
    const line = String.raw`127.0.0.1 - frank [10/Oct/2000:13:55:36 -0700] "GET /apache_pb.gif HTTP/1.0" 200 2326 "http://www.example.com/start.html" "Mozilla/4.08 [en] (Win98; I ;Nav)"`;
    expect(read(line)).toEqual({
      address: "127.0.0.1",
      at: Date.UTC(2000, 9, 10, 20, 55, 36),
      method: "GET",
      target: "/apache_pb.gif",
      status: 200,
      referrer: "http://www.example.com/start.html",
      userAgent: "Mozilla/4.08 [en] (Win98; I ;Nav)",
    });
  });
  it("takes escapes back, keeps quotes within, and leaves what stands after it alone", () => {
    const line = String.raw`::1 - - [24/Nov/2026:10:15:00 +0000] "GET /a\x20b?q=\"x\" HTTP/1.1" 200 - "-" "odd \"agent\" \\" "extra" 0.001`;
    expect(read(line)).toMatchObject({
      address: "::1",
      target: `/a b?q="x"`,
      referrer: "",
      userAgent: `odd "agent" \\`,
    });
  });
  it("is broken in another format, cut short, or with a time that is none", () => {
    const good = log("/");
    expect(read(good)).toBeDefined();
    for (let cut = 0; cut < good.length; cut++) expect(read(good.slice(0, cut))).toBeUndefined();
    for (const bad of [
      "",
      "nonsense",
      '{"json":true}',
      good.replace("24/Nov/2026", "31/Feb/2026"),
      good.replace(":09:00:00", ":25:00:00"),
      good.replace("Nov", "Nuv"),
      good.replace(" 200 ", " abc "),
    ])
      expect(read(bad)).toBeUndefined();
  });
  it("never throws, whatever it is given", () => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom(...'"[]\\ -/:0123456789GETx+') }), (text) => void read(text)),
    );
    fc.assert(
      fc.property(fc.nat(140), fc.string(), (at, text) => void read(log("/").slice(0, at) + text + log("/").slice(at))),
    );
  });
  it("is a page view if it is a GET, answered 200 or 304, for a page", () => {
    const view = (target: string, more = {}) => isPageView(read(log(target, more))!);
    for (const page of [
      "/",
      "/ferns",
      "/ferns/",
      "/care/frost.html",
      "/care/Frost.HTML",
      "/?file=x.png",
      "/v1.2/ferns",
    ])
      expect(view(page)).toBe(true);
    for (const other of ["/logo.svg", "/app.js?v=1", "/feed.xml", "/care/frost.htm"]) expect(view(other)).toBe(false);
    expect(view("/", { status: 304 })).toBe(true);
    for (const more of [{ status: 301 }, { status: 404 }, { method: "POST" }, { method: "HEAD" }])
      expect(view("/", more)).toBe(false);
  });
});

describe("a replay", () => {
  it("counts views, visits and visitors by variant; crawlers and broken lines apart", () => {
    const result = run([
      log("/?utm_source=postbox"),
      log("/ferns", { at: 5 }),
      log("/logo.svg", { at: 5 }),
      log("/", { at: 20 }),
      log("/", { at: 50 }), // 30 minutes later: another visit
      log("/", { at: 70, ua: phone }),
      log("/", { at: 71, ua: "Mozilla/5.0 (compatible; Googlebot/2.1; +http://www.google.com/bot.html)" }),
      "half a li",
      log("/old", { at: 75, ip: "192.0.2.9" }),
    ]);
    expect(result).toEqual({
      lines: 9,
      broken: 1,
      bots: 1,
      views: 6,
      visitors: 3,
      visits: 4,
      slots: {
        hero: { mail: { views: 1, visits: 1 }, fallback: { views: 3, visits: 2 }, clinic: { views: 1, visits: 1 } },
        ferns: { fallback: { views: 1, visits: 1 } },
      },
      redirects: { old: 1 },
    });
  });
  it("knows no history without consent, and judges as though all had agreed with it", () => {
    const lines = [log("/ferns"), log("/ferns", { at: 2 }), log("/ferns", { at: 4 })];
    expect(run(lines).slots.ferns).toEqual({ fallback: { views: 3, visits: 1 } });
    expect(run(lines, { consent: true }).slots.ferns).toEqual({
      fallback: { views: 1, visits: 1 },
      again: { views: 2, visits: 1 },
    });
  });
  it("tells on how many views and visits another ruleset shows something else", () => {
    const other = {
      ...rules,
      slots: rules.slots.map((slot) => ({ ...slot, variants: slot.variants.filter((item) => item.id !== "phone") })),
    };
    const lines = [
      log("/"),
      log("/", { ua: phone, at: 1 }),
      log("/ferns", { ua: phone, at: 2 }),
      log("/", { ua: phone, at: 65 }),
    ];
    expect(run(lines, { against: other }).changes).toEqual({ views: 2, visits: 1 });
    expect(run(lines, { against: rules }).changes).toEqual({ views: 0, visits: 0 });
  });
  it("comes out as deciding every view by itself does, though equal requests are decided once", () => {
    const places: Record<string, { country: string }> = { 1: { country: "PT" }, 2: { country: "ES" } };
    const placed = ruleset({
      slots: [
        {
          id: "s",
          name: "S",
          variants: [
            variant("pt", { all: [when("place", "isIn", [{ country: "PT" }]), clinic] }),
            variant("mail", when("campaign.source", "is", "x")),
            variant("net", when("ip", "isIn", ["192.0.2.3"])),
          ],
        },
      ],
    });
    const lookup = (address: Address) => places[String(address.bits & 255n)];
    const engine = createEngine(placed, { lookup });
    const view = fc.record({
      at: fc.nat(600),
      ip: fc.constantFrom("192.0.2.1", "192.0.2.2", "192.0.2.3"),
      target: fc.constantFrom("/", "/?utm_source=x"),
    });
    fc.assert(
      fc.property(fc.array(view, { maxLength: 40 }), (views) => {
        const sorted = [...views].sort((a, b) => a.at - b.at);
        const got = run(
          sorted.map((item) => log(item.target, item)),
          { lookup },
          placed,
        );
        const counts: Record<string, number> = {};
        for (const item of sorted) {
          const decision = engine.decide({
            at: new Date(start + item.at * 60_000).toISOString(),
            url: `https://shop.example${item.target}`,
            ip: item.ip,
            userAgent: agent,
          });
          const shown = decision.slots.s?.[0]?.variant ?? "fallback";
          counts[shown] = (counts[shown] ?? 0) + 1;
        }
        expect(Object.fromEntries(Object.entries(got.slots.s ?? {}).map(([id, count]) => [id, count.views]))).toEqual(
          counts,
        );
      }),
    );
  });
  it("counts the same wherever the stream is cut, and shared among several", () => {
    const other = {
      ...rules,
      slots: rules.slots.map((slot) => ({ ...slot, variants: slot.variants.filter((item) => item.id !== "phone") })),
    };
    const view = fc.record({
      at: fc.nat(200),
      ip: fc.constantFrom("192.0.2.1", "192.0.2.2", "2001:db8::3", "192.0.2.4"),
      ua: fc.constantFrom(agent, phone),
      target: fc.constantFrom("/", "/ferns", "/old", "/x.png"),
    });
    fc.assert(
      fc.property(fc.array(view, { maxLength: 30 }), fc.array(fc.nat(4000)), fc.boolean(), (views, cuts, consent) => {
        const lines = views.sort((a, b) => a.at - b.at).map((item) => log(item.target, item));
        lines.splice(3, 0, "broken");
        const text = lines.join("\r\n");
        const options = { against: other, detail: true, consent };
        const whole = new Replay(rules, options);
        for (const line of lines) whole.line(line);
        const places = [0, ...cuts.filter((cut) => cut < text.length).sort((a, b) => a - b), text.length];
        const cut = new Replay(rules, options);
        places.slice(1).forEach((to, index) => cut.take(text.slice(places[index], to)));
        cut.end();
        expect(cut.tally()).toEqual(whole.tally());
        const out = new LineShares(3);
        const replays = [0, 1, 2].map(() => new Replay(rules, options));
        const hand = (parts: Lines[]) =>
          parts.forEach((part, index) => replays[index]?.take(decoder.decode(part.bytes), part.numbers));
        const bytes = encoder.encode(text);
        places.slice(1).forEach((to, index) => hand(out.take(bytes.subarray(places[index], to))));
        hand(out.end());
        expect(out.lines).toBe(lines.length);
        const added = addShares(replays.map((replay) => replay.tally()));
        expect(JSON.stringify(resultOf(added, rules, true))).toBe(JSON.stringify(whole.result()));
        const sorted = (tally: Tally) =>
          tally.counts
            .filter((item) => item.views > 0)
            .map((item) => JSON.stringify(item))
            .sort();
        expect(sorted(added)).toEqual(sorted(whole.tally()));
        expect(added.countries).toEqual(whole.tally().countries);
        expect(added.hours.map(({ at, views: count }) => [at, count])).toEqual(
          whole.tally().hours.map(({ at, views: count }) => [at, count]),
        );
        expect(added.brokenLines).toEqual([{ line: Math.min(4, lines.length), text: "broken" }]);
      }),
    );
  });
  it("tells from what to what it changes, when, for which countries, with examples, and what it could not know", () => {
    const places: Record<string, { country: string }> = { 1: { country: "PT" }, 2: { country: "ES" } };
    const cartRules = ruleset({
      slots: [
        {
          id: "s",
          name: "S",
          variants: [
            variant("full", when("cart.count", "gt", 2)),
            variant("pt", when("place", "isIn", [{ country: "PT" }])),
          ],
        },
      ],
    });
    const without = {
      ...cartRules,
      slots: cartRules.slots.map((slot) => ({ ...slot, variants: slot.variants.slice(0, 1) })),
    };
    const replay = new Replay(cartRules, {
      against: without,
      detail: true,
      lookup: (address) => places[String(address.bits & 255n)],
    });
    for (const line of [
      log("/"),
      log("/", { at: 90 }),
      log("/", { ip: "192.0.2.2", at: 91 }),
      log("/", { ip: "192.0.2.9", at: 92 }),
    ])
      replay.line(line);
    const tally = replay.tally();
    const count = (key: CountKey) => tally.counts.find((item) => JSON.stringify(item.key) === JSON.stringify(key));
    expect(count({ of: "move", slot: "s", before: "pt", after: "fallback" })).toMatchObject({ views: 2, visits: 2 });
    expect(count({ of: "unknown", slot: "s", variant: "full" })).toMatchObject({ views: 4 });
    expect(count({ of: "unknown", slot: "s", variant: "pt" })).toMatchObject({ views: 1 });
    expect(tally.countries).toEqual({
      PT: { views: 2, visits: 2, changedViews: 2, changedVisits: 2 },
      ES: { views: 1, visits: 1, changedViews: 0, changedVisits: 0 },
      "": { views: 1, visits: 1, changedViews: 0, changedVisits: 0 },
    });
    expect(tally.hours.map((hour) => hour.views)).toEqual([1, 3]);
    // Equal requests are one example.
    expect(tally.examples).toHaveLength(1);
    expect(tally.examples[0]).toMatchObject({
      slot: "s",
      before: "pt",
      after: "fallback",
      visit: { ip: "192.0.2.1", url: expect.stringMatching(/\/$/) },
    });
  });
});

describe("what logs write in their own ways", () => {
  const read = (line: string) => new LogReader().read(line);
  const line = (parts: { before?: string; zone?: string; bytes?: string; ua?: string; target?: string }) =>
    `${parts.before ?? "192.0.2.1 - -"} [24/Nov/2026:10:15:00 ${parts.zone ?? "+0000"}] "GET ${parts.target ?? "/"} HTTP/1.1" 200 ${parts.bytes ?? "512"} "-" "${parts.ua ?? "-"}"`;
  it("escaped bytes are read as UTF-8 where they are that, else each by itself", () => {
    expect(read(line({ target: "/caf\\xC3\\xA9" }))?.target).toBe("/café");
    expect(read(line({ ua: '\\xF0\\x9F\\x8C\\xBF \\"x\\"' }))?.userAgent).toBe('🌿 "x"');
    expect(read(line({ target: "/caf\\xE9" }))?.target).toBe("/café");
  });
  it("no agent is the same visitor however it is written", () => {
    const lines = [line({ ua: "-" }), line({ ua: "" }), line({ ua: agent }), line({ ua: agent.replace("M", "\\x4D") })];
    expect(run(lines)).toMatchObject({ views: 4, visitors: 2, visits: 2, broken: 0 });
  });
  it.each([
    ["without ident and user", { before: "192.0.2.1" }],
    ["without user", { before: "192.0.2.1 -" }],
    ["with bytes that are no number", { bytes: "many" }],
    ["with no bytes at all", { bytes: "" }],
    ["with an impossible offset", { zone: "+9900" }],
    ["with an offset of impossible minutes", { zone: "+0160" }],
    ["with an offset that is none", { zone: "+00x0" }],
  ])("a line %s is broken", (_, parts) => expect(read(line(parts))).toBeUndefined());
  it.each([[{ bytes: "-" }], [{ before: "192.0.2.1 - Ann Lee" }], [{ zone: "-0930" }], [{ zone: "+1400" }]])(
    "a line with %o is read",
    (parts) => expect(read(line(parts))).toBeDefined(),
  );
});

describe("two rulesets, of which only something small differs", () => {
  const note = (text: string) => ({ type: "n", fields: { text } });
  const made = (fallback: string, searchSources: unknown[] = []) =>
    ruleset({
      searchSources,
      blockTypes: [{ id: "n", name: "N", fields: [{ id: "text", name: "T", kind: "line" }] }],
      slots: [
        {
          id: "s",
          name: "S",
          variants: [
            variant("v", null, {
              arms: [
                { id: "a", weight: 50, content: note("a") },
                { id: "none", weight: 50, content: null },
              ],
            }),
          ],
          fallback: note(fallback),
        },
      ],
    });
  it("each visitor's own draw of arms decides whether a fallback of other words is a change", () => {
    const [before, after] = [made("before"), made("after")];
    const visitors = Array.from({ length: 20 }, (_, index) => `192.0.2.${index + 1}`);
    const result = run(
      visitors.map((ip) => log("/", { ip })),
      { against: after },
      before,
    );
    const [one, two] = [createEngine(before), createEngine(after)];
    const wanted = visitors.filter((ip) => {
      const seen = { at: "2026-11-24T09:00:00Z", url: "https://shop.example/", visitorId: `${ip} ${agent}` };
      return JSON.stringify(one.decide(seen).slots) !== JSON.stringify(two.decide(seen).slots);
    });
    expect(wanted.length).toBeGreaterThan(4);
    expect(wanted.length).toBeLessThan(16);
    expect(result.changes).toEqual({ views: wanted.length, visits: wanted.length });
  });
  it("where the site's own host is a search source, its searches are told apart", () => {
    const rules = ruleset({
      searchSources: [{ host: "shop.example", engine: "own", parameter: "q" }],
      slots: [{ id: "s", name: "S", variants: [variant("fern", when("search.words", "hasAnyWord", "fern"))] }],
    });
    const lines = ["x", "fern", "x", "shade fern"].map((words, at) =>
      log("/", { at, ref: `https://shop.example/search?q=${encodeURIComponent(words)}` }),
    );
    expect(run(lines, {}, rules).slots.s).toMatchObject({ fern: { views: 2 }, fallback: { views: 2 } });
  });
  it("holds no line that never ends, and goes on with the next", () => {
    const replay = new Replay(ruleset({}), {});
    const good = '192.0.2.1 - - [24/Nov/2026:10:15:00 +0000] "GET / HTTP/1.1" 200 512 "-" "Mozilla/5.0"\n';
    replay.take(good + "x".repeat(10));
    for (let times = 0; times < 200; times++) replay.take("0".repeat(1_000_000));
    replay.take(`00\n${good}`);
    replay.end();
    const { lines, broken } = replay.tally();
    expect([lines, broken]).toEqual([3, 1]);
  });
});
