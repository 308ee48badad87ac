/** What is seen over pages, weeks and sheets: journeys, heat, sheets, links, redirects tried on visits. */
import { describe, expect, it } from "vitest";
import { createEngine } from "../decision/engine";
import { redirectExamples } from "../decision/examples";
import { targetProblem } from "../content/template";
import { capWords, opensWords, popupVerdict } from "../decision/popup-words";
import { ruleset, variant, visit } from "../testing";
import { afterWords, happenings, play } from "../lens/journey";
import { heatOf } from "./heat";
import { linkTo } from "./link";
import { nearestOf, someoneWho, someoneWhoIsSent, someoneWhoOpens } from "./reach";
import { allFindings } from "./findings";
import { differingParts, nextWeekday, sheetCells, showsVariant } from "./sheet";
import { subsets } from "./subsets";
import { popupTimeline, redirectTimeline } from "./timeline";
import { zoneOf } from "../calendar/zone";

const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const hours = (days: string[], start: string, end: string) =>
  when("time", "within", { zone: "site", days, windows: [{ start, end }] });
const popup = (id: string, more: object = {}) => ({
  id,
  name: id,
  opensAfter: { seconds: 1 },
  size: { width: 300, height: 200 },
  arms: [{ id: "a", weight: 100, content: null }],
  ...more,
});
const at = Date.UTC(2026, 10, 24, 10, 15);
const pages = [
  { path: "/", facts: { id: "home" } },
  { path: "/ferns", facts: { id: "ferns", category: "ferns" } },
];

describe("a journey", () => {
  const engine = createEngine(
    ruleset({
      slots: [{ id: "s", name: "S", variants: [{ ...variant("kept", when("query.x", "is", "1")), rememberDays: 2 }] }],
      markers: [{ id: "twice", name: "Twice", gain: when("page.category", "is", "ferns"), gainViews: 2, days: 30 }],
      popups: [popup("p", { cap: { times: 1, per: "visit" } })],
      redirects: [{ id: "r", name: "R", rule: when("page.path", "is", "/old"), to: "/ferns" }],
    }),
  );
  const facts = new Map(pages.map((page) => [page.path, page.facts]));
  const start = visit({ url: "https://shop.example/?x=1", consent: true, visitorId: "v" });
  it("carries what is remembered from page to page: markers, remembered variants, caps", () => {
    const played = play(
      engine,
      start,
      [
        { path: "/ferns", after: 1 },
        { path: "/ferns", after: 5 },
        { path: "/", after: 3 * 1440 },
      ],
      facts,
    );
    expect(played.map(({ decision }) => decision.markers)).toEqual([[], [], ["twice"], ["twice"]]);
    // The variant is remembered for two days from its last showing, and the pop-up opens once a visit.
    expect(played.map(({ decision }) => decision.slots.s?.[0]?.variant)).toEqual(["kept", "kept", "kept", null]);
    expect(played.map(({ decision }) => decision.popup?.id)).toEqual(["p", undefined, undefined, "p"]);
    expect(played[3]?.visit.at).toBe("2026-11-27T10:21:00.000Z");
    expect(played[1]?.visit.referrer).toBe(start.url);
  });
  it("says what each page view brings", () => {
    const played = play(
      engine,
      start,
      [
        { path: "/ferns", after: 1 },
        { path: "/ferns", after: 5 },
        { path: "/", after: 40 * 1440 },
      ],
      facts,
    );
    const said = played.map((item, index) =>
      happenings(item, played[index - 1], engine.ruleset, (place) => "AB"[place] ?? "?"),
    );
    expect(said).toEqual([
      ["S: A kept", "pop-up: p"],
      ["S: A kept, remembered", "pop-up p held back: its cap is reached: 1 of 1 in this visit"],
      [
        "S: A kept, remembered",
        "gains the marker “Twice”",
        "pop-up p held back: its cap is reached: 1 of 1 in this visit",
      ],
      ["loses the marker “Twice”", "pop-up: p"],
    ]);
    const { consent: _consent, ...stranger } = start;
    expect(happenings(play(engine, stranger, [], facts)[0]!, undefined, engine.ruleset, String)).toContain(
      "has not agreed: nothing is remembered from step to step",
    );
    const sent = play(engine, visit({ url: "https://shop.example/old" }), [], facts);
    expect(happenings(sent[0]!, undefined, engine.ruleset, String)).toEqual(["sent on to https://shop.example/ferns"]);
  });
  it("follows redirects within the site, as further views of the same step", () => {
    const played = play(engine, start, [{ path: "/old", after: 0 }], facts);
    expect(played.map((item) => [item.step, new URL(item.visit.url).pathname])).toEqual([
      [0, "/"],
      [1, "/old"],
      [1, "/ferns"],
    ]);
  });
  it("remembers nothing without consent", () => {
    const { consent: _consent, ...stranger } = start;
    const played = play(
      engine,
      stranger,
      [
        { path: "/ferns", after: 1 },
        { path: "/ferns", after: 1 },
      ],
      facts,
    );
    expect(played.at(-1)?.decision.markers).toEqual([]);
  });
  it("says how long after", () => {
    expect([0, 1, 5, 60, 120, 1440, 4320].map(afterWords)).toEqual([
      "at once",
      "1 minute later",
      "5 minutes later",
      "1 hour later",
      "2 hours later",
      "1 day later",
      "3 days later",
    ]);
  });
});

describe("over a week and a sheet", () => {
  const engine = createEngine(
    ruleset({
      slots: [
        {
          id: "s",
          name: "S",
          variants: [
            variant("clinic", hours(["TU"], "10:00", "12:00")),
            variant("es", when("language", "prefers", ["es"])),
          ],
        },
        { id: "ferns", name: "F", pages: when("page.id", "is", "ferns"), variants: [variant("f")] },
      ],
      popups: [popup("tuesdays", { rule: hours(["TU"], "10:00", "11:00") })],
      redirects: [{ id: "weekend", name: "W", rule: hours(["SA"], "00:00", "24:00"), to: "/closed" }],
    }),
  );
  const spanish = visit({ acceptLanguage: "es" });
  it("the heat of an hour is the share of visitors who see a variant as it begins", () => {
    const { shares } = heatOf(engine, "s", [visit(), spanish], at);
    expect(shares.get("clinic")?.[1]?.slice(9, 13)).toEqual([0, 1, 1, 0]);
    expect(shares.get("clinic")?.[0]?.every((share) => share === 0)).toBe(true);
    expect(shares.get("es")?.[1]?.slice(9, 13)).toEqual([0.5, 0, 0, 0.5]);
    // On Saturday everybody is sent away.
    expect(shares.get("es")?.[5]?.every((share) => share === 0)).toBe(true);
  });
  it("pop-ups and redirects have stretches of their own", () => {
    const until = at + 7 * 86_400_000;
    const on = (list: { from: number; until: number; on: boolean }[]) =>
      list
        .filter((item) => item.on)
        .map((item) => [new Date(item.from).toISOString(), new Date(item.until).toISOString()]);
    expect(on(popupTimeline(engine, "tuesdays", visit(), at, until))).toEqual([
      ["2026-11-24T10:15:00.000Z", "2026-11-24T11:00:00.000Z"],
      ["2026-12-01T10:00:00.000Z", "2026-12-01T10:15:00.000Z"],
    ]);
    expect(on(redirectTimeline(engine, "weekend", visit(), at, until))).toEqual([
      ["2026-11-28T00:00:00.000Z", "2026-11-29T00:00:00.000Z"],
    ]);
  });
  it("a sheet has a cell for each visitor on each page or at each time, and says what differs", () => {
    const visitors = [
      { id: "a", name: "A", visit: visit({ url: "https://shop.example/?utm_source=x" }) },
      { id: "b", name: "B", visit: spanish },
    ];
    const facts = new Map(pages.map((page) => [page.path, page.facts]));
    const cells = sheetCells(
      engine,
      visitors,
      {
        pages: [
          { path: "/", title: "Home" },
          { path: "/ferns", title: "Ferns" },
        ],
      },
      facts,
    );
    expect(cells.map((cell) => cell.key)).toEqual(["a /", "a /ferns", "b /", "b /ferns"]);
    expect(cells[1]?.visit.url).toBe("https://shop.example/ferns?utm_source=x");
    // Of two pages only what both have is compared.
    expect(differingParts(cells[0]!.decision, cells[1]!.decision)).toEqual([]);
    const later = sheetCells(
      engine,
      visitors,
      {
        times: [
          { at: Date.UTC(2026, 10, 25, 9), title: "Wed" },
          { at: Date.UTC(2026, 10, 28, 9), title: "Sat" },
        ],
      },
      facts,
    );
    expect(differingParts(later[0]!.decision, later[2]!.decision)).toEqual(["s"]);
    expect(differingParts(later[0]!.decision, later[1]!.decision)).toContain("*redirect");
    expect(later.filter((cell) => showsVariant(cell, "s", "es"))).toHaveLength(1);
    expect(cells.filter((cell) => showsVariant(cell, "s", "clinic"))).toHaveLength(4);
  });
  it("finds the next Saturday noon, also across a clock change", () => {
    const zone = zoneOf("Europe/Lisbon");
    expect(new Date(nextWeekday(at, 5, 720, zone)).toISOString()).toBe("2026-11-28T12:00:00.000Z");
    expect(new Date(nextWeekday(Date.UTC(2026, 2, 27), 6, 90, zone)).toISOString()).toBe("2026-03-29T01:30:00.000Z");
  });
});

describe("links, pop-ups and redirects", () => {
  const parts = ruleset({
    slots: [
      {
        id: "s",
        name: "S",
        pages: when("page.id", "is", "home"),
        variants: [
          variant("water", when("query.topic", "is", "water")),
          variant("pt", when("place", "isIn", [{ country: "PT" }])),
        ],
      },
      {
        id: "list",
        name: "L",
        take: 2,
        variants: [variant("one"), variant("two"), variant("three"), variant("four", when("query.y", "isPresent"))],
      },
    ],
    popups: [
      popup("first", { rule: when("campaign.source", "is", "x") }),
      popup("second", { cap: { times: 1, per: "ever" } }),
    ],
    redirects: [
      {
        id: "old",
        name: "Old",
        rule: when("page.path", "is", "/alt"),
        to: "/{country}{+path}",
        on: false,
        exemptAddresses: ["203.0.113.0/24"],
      },
    ],
  });
  const domain = { ruleset: parts, pages, from: at };
  const slot = (id: string) => parts.slots.find((item) => item.id === id)!;
  it("a link leads to a variant, and tells whether it is enough", () => {
    const [water, pt] = slot("s").variants;
    expect(linkTo(domain, slot("s"), water!)).toEqual({ url: "https://shop.example/?topic=water", enough: true });
    expect(linkTo(domain, slot("s"), pt!)?.enough).toBe(false);
  });
  it("the smallest change that fills a place is found over all its variants", () => {
    const here = visit({ page: { id: "home" }, place: { country: "ES" } });
    const found = nearestOf(domain, here, slot("s"));
    expect(found?.change.facets).toHaveLength(1);
    expect(createEngine(parts).decide(found!.change.visit).slots.s?.[0]?.variant).toBe(found?.variant.id);
  });
  it("where several are shown, a variant is reached as long as a place is left", () => {
    const [one, two, three, four] = slot("list").variants;
    for (const reached of [one, two]) expect(someoneWho(domain, slot("list"), reached!).found).toBe(true);
    for (const never of [three, four])
      expect(someoneWho(domain, slot("list"), never!)).toMatchObject({ found: false, proof: "exact" });
    const beaten = allFindings(domain).filter((item) => item.finding === "always-beaten");
    expect(beaten.map((item) => item.variant)).toEqual(["three", "four"]);
    expect(beaten[0]?.says).toContain("those of 2 above it");
    expect([...subsets([1, 2, 3], 2)]).toEqual([
      [1, 2],
      [1, 3],
      [2, 3],
    ]);
  });
  it("with too many ways to fill the places nothing is called proved", () => {
    const many = Array.from({ length: 30 }, (_, index) => variant(`v${index}`));
    const wide = ruleset({
      slots: [{ id: "s", name: "S", take: 3, variants: [...many, variant("last", when("query.last", "isPresent"))] }],
    });
    const asked = { ruleset: wide, from: at };
    const last = wide.slots[0]!.variants.at(-1)!;
    expect(someoneWho(asked, wide.slots[0]!, last)).toMatchObject({ found: false, proof: "searched" });
    const beaten = allFindings(asked).filter((item) => item.finding === "always-beaten");
    expect(beaten.map((item) => item.variant)).toContain("v4");
    expect(beaten.map((item) => item.variant)).not.toContain("last");
  });
  it("nobody is named for whom a pop-up does not open after all", () => {
    const shy = ruleset({
      popups: [popup("shy", { rule: { none: [when("history.visits", "isKnown")] }, cap: { times: 1, per: "ever" } })],
    });
    expect(someoneWhoOpens({ ruleset: shy, from: at }, shy.popups[0]!)).toMatchObject({
      found: false,
      proof: "searched",
    });
    const behind = ruleset({
      redirects: [
        { id: "r", name: "R", rule: when("ip", "isIn", ["203.0.113.9"]), to: "/x", exemptAddresses: ["203.0.113.9"] },
      ],
    });
    expect(someoneWhoIsSent({ ruleset: behind, from: at }, behind.redirects[0]!).found).toBe(false);
  });
  it("someone for whom a pop-up opens has agreed, so that it can be counted; its verdict is said in words", () => {
    const [first, second] = parts.popups;
    const engine = createEngine(parts);
    const solved = someoneWhoOpens(domain, second!);
    expect(solved.found && engine.decide(solved.visit).popup?.id).toBe("second");
    const say = (of: typeof first, asked = visit()) => {
      const trace = engine.decide(asked, { trace: true }).trace?.popups.find((item) => item.id === of!.id);
      return popupVerdict(of!, trace, parts);
    };
    expect(say(first)).toBe("does not open for this visitor: it opens when the campaign source is “x”");
    expect(say(second)).toBe("held back: it has a cap, and without consent nothing can be counted");
    expect(say(second, visit({ url: "https://shop.example/?utm_source=x" }))).toContain("“first” opens");
    expect(say(second, visit({ consent: true, visitorId: "v" }))).toBe("opens after 1 second");
    expect(opensWords({ idleSeconds: 30 })).toBe("after 30 seconds without a move");
    expect(capWords({ times: 2, per: "day" })).toBe("at most 2 times per day");
  });
  it("somebody whom a redirect sends on is on an address that is no page, and tells what its template names", () => {
    const [old] = parts.redirects;
    const solved = someoneWhoIsSent(domain, old!);
    expect(solved.found && new URL(solved.visit.url).pathname).toBe("/alt");
    const tried = redirectExamples(
      old!,
      parts,
      [
        solved.found ? solved.visit : visit(),
        visit(),
        visit({ url: "https://shop.example/alt", place: { country: "DE" }, ip: "203.0.113.9" }),
        visit({ url: "https://shop.example/alt" }),
      ],
      {},
    );
    expect(tried).toEqual([
      { location: "https://shop.example/pt/alt" },
      { reason: "its rule is not met" },
      { reason: "the visitor’s address is exempt" },
      { reason: "its template names country, which is not known" },
    ]);
    const problem = (to: string) => targetProblem(to, "https://shop.example", ["seeds.example"]);
    for (const to of [
      "/x",
      "{+path}/y",
      "https://shop.example/x",
      "{scheme}://{+host}/x",
      "https://seeds.example/{country}",
      "//seeds.example/",
    ])
      expect(problem(to)).toBeUndefined();
    expect(problem("")).toBe("It is missing");
    expect(problem("/{planet}")).toContain("planet");
    expect(problem("https://evil.example/")).toContain("It leads to evil.example");
    expect(problem("//evil.example/")).toContain("It leads to evil.example");
    for (const to of ["https://{city}.example/", "https://{+host}.evil.example/", "{scheme}://{country}/"])
      expect(problem(to)).toContain("must be written out");
    const away = { ...old!, to: "https://elsewhere.example/" };
    const [found] = redirectExamples(away, parts, [visit({ url: "https://shop.example/alt" })], {
      mayLeadTo: () => false,
    });
    expect(found?.reason).toContain("elsewhere.example, a host that this site does not send visitors to");
    // A path that looks like another site's address does not lead there.
    const open = { ...old!, rule: null, to: "{+path}" };
    const [evil] = redirectExamples(open, parts, [visit({ url: "https://shop.example//evil.example/" })], {
      mayLeadTo: () => false,
    });
    expect(evil?.location).toBeUndefined();
  });
});
