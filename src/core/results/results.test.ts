/** What came of each variant and arm, added up from what was counted. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readTable } from "../formats/table";
import { ruleset, site } from "../testing";
import { countedThings } from "./counted";
import { hoursToCsv, type HourRow } from "./hours";
import { spikesIn } from "./spikes";
import {
  controlOf,
  dimensions,
  goalsIn,
  outcomes,
  parted,
  resultsToCsv,
  type Dimension,
  type ResultRow,
} from "./results";

const row = (more: Partial<ResultRow>): ResultRow => ({
  of: "day",
  key: "2026-11-24",
  kind: "exposure",
  variant: "mail",
  arm: "a",
  name: "",
  count: 1,
  firsts: 0,
  value: 0,
  ...more,
});
const rows = fc.array(
  fc.record({
    of: fc.constantFrom(...dimensions),
    key: fc.constantFrom("", "2026-11-23", "2026-11-24", "PT", "postbox"),
    kind: fc.constantFrom("exposure" as const, "click" as const, "conversion" as const),
    variant: fc.constantFrom("", "mail", "clinic"),
    arm: fc.constantFrom("a", "b"),
    name: fc.constantFrom("order", "letter"),
    count: fc.nat(50),
    firsts: fc.nat(50),
    value: fc.nat(9000),
  }),
  { maxLength: 40 },
);
const sum = (list: number[]) => list.reduce((all, one) => all + one, 0);

describe("outcomes", () => {
  it("add up by variant and arm; money and goals are conversions' own", () => {
    const list = [
      row({ count: 100, firsts: 60 }),
      row({ kind: "click", count: 12, firsts: 9 }),
      row({ kind: "conversion", name: "order", count: 3, firsts: 2, value: 5400 }),
      row({ kind: "conversion", name: "letter", count: 5, firsts: 5 }),
      row({ variant: "", arm: "", count: 40, firsts: 20 }),
    ];
    expect(goalsIn(list)).toEqual(["letter", "order"]);
    expect(outcomes(list)).toMatchObject([
      {
        variant: "mail",
        arm: "a",
        exposures: 100,
        visitors: 60,
        clicks: 12,
        clicked: 9,
        conversions: 8,
        converted: 7,
        value: 5400,
      },
      { variant: "", exposures: 40, visitors: 20, clicks: 0 },
    ]);
    expect(outcomes(list, "letter")[0]).toMatchObject({ conversions: 5, converted: 5, value: 0 });
  });
  it("never tell of more visitors who did something than of visitors", () => {
    // Seen before the stretch of time began, clicked within it.
    expect(outcomes([row({ kind: "click", count: 4, firsts: 4 })])[0]).toMatchObject({
      visitors: 0,
      clicks: 4,
      clicked: 0,
    });
    fc.assert(
      fc.property(rows, (list) => {
        for (const item of outcomes(list)) {
          expect(item.clicked).toBeLessThanOrEqual(item.visitors);
          expect(item.converted).toBeLessThanOrEqual(item.visitors);
        }
      }),
    );
  });
});

describe("parted by a dimension", () => {
  it("loses nothing and counts nothing twice", () => {
    fc.assert(
      fc.property(rows, fc.constantFrom<Dimension>(...dimensions), (list, of) => {
        const own = list.filter((item) => item.of === of);
        const parts = parted(list, of);
        for (const what of ["exposures", "clicks", "value"] as const)
          expect(sum(parts.flatMap((part) => part.outcomes.map((item) => item[what])))).toBe(
            sum(outcomes(own).map((item) => item[what])),
          );
        expect(new Set(parts.map((part) => part.key)).size).toBe(parts.length);
      }),
    );
  });
  it("puts days in their order, and anything else by how much was seen", () => {
    const list = ["2026-11-24", "2026-11-02", "2026-11-10"].map((key, index) => row({ key, count: index + 1 }));
    expect(parted(list, "day").map(({ key }) => key)).toEqual(["2026-11-02", "2026-11-10", "2026-11-24"]);
    const places = ["PT", "ES", "DE"].map((key, index) => row({ of: "country", key, count: (index * 2) % 3 }));
    expect(parted(places, "country").map(({ key }) => key)).toEqual(["ES", "DE", "PT"]);
  });
});

describe("as a CSV", () => {
  it("holds every figure of the screen, and is read back by a table's reader", () => {
    const list = [row({ count: 7, firsts: 3 }), row({ of: "country", key: "PT", variant: "", arm: "", count: 2 })];
    const text = resultsToCsv(list, "home-hero");
    const [heading = ""] = text.split("\r\n");
    const columns = heading.split(",");
    const read = readTable(text, { columns });
    expect(
      "rows" in read &&
        read.rows.map((item) => Object.fromEntries(columns.map((column) => [column, item.cell(column)]))),
    ).toMatchObject([
      { slot: "home-hero", by: "day", of: "2026-11-24", variant: "mail", arm: "a", exposures: "7", visitors: "3" },
      { slot: "home-hero", by: "country", of: "PT", variant: "fallback", exposures: "2" },
    ]);
  });
});

describe("the control of a test", () => {
  const armsOf = (arms: object[]) =>
    ruleset({
      blockTypes: [{ id: "n", name: "N", fields: [] }],
      slots: [{ id: "s", name: "S", variants: [{ id: "v", name: "V", arms }] }],
    }).slots[0]?.variants[0]?.arms ?? [];
  const content = { type: "n", fields: {} };
  it("is the arm that shows the fallback, else the first that anybody gets", () => {
    const a = { id: "a", weight: 50, content };
    expect(controlOf(armsOf([a, { id: "b", weight: 50, content: null }]))?.id).toBe("b");
    expect(controlOf(armsOf([a, { id: "b", weight: 50, content }]))?.id).toBe("a");
    expect(
      controlOf(
        armsOf([
          { ...a, weight: 0 },
          { id: "b", weight: 100, content },
          { id: "c", weight: 0, content: null },
        ]),
      )?.id,
    ).toBe("b");
    expect(controlOf([])).toBeUndefined();
  });
});

describe("what may have been counted", () => {
  const slot = (id: string, name: string, variants: string[], more: object = {}) => ({
    id,
    name,
    ...more,
    variants: variants.map((one) => ({ id: one, name: one, arms: [{ id: "a", weight: 100, content: null }] })),
  });
  it("is named as it is live, with what is gone from it by what the draft calls it", () => {
    const draft = ruleset({ slots: [slot("s", "Draft’s name", ["new"], { goal: "order" })] });
    const live = ruleset({ slots: [slot("s", "Live name", ["old"]), slot("gone", "Gone", ["x"])] });
    const things = countedThings(draft, live);
    expect(things.get("s")).toMatchObject({
      name: "Live name",
      goal: "order",
      variants: [{ id: "old" }, { id: "new" }],
    });
    expect([...things.keys()]).toEqual(["s", "gone"]);
  });
  it("has all of it together first, where there is a holdout: the held out are what it is compared with", () => {
    const [first] = countedThings(ruleset({ site: { ...site, holdout: 5 } })).values();
    expect(first?.id).toBe("site:holdout");
    expect(first?.variants[0]?.arms.map(({ id, weight }) => [id, weight])).toEqual([
      ["in", 95],
      ["out", 5],
    ]);
    expect(controlOf(first?.variants[0]?.arms ?? [])?.id).toBe("out");
  });
});

describe("spikes", () => {
  const days = Array.from({ length: 14 }, (_, index) => `2026-11-${String(index + 1).padStart(2, "0")}`);
  const seen = (counts: readonly number[]) =>
    counts.map((count, index) => row({ key: days[index] as string, count, kind: "exposure" }));
  it("are days far above the others", () => {
    const counts = days.map((_, index) => (index === 9 ? 900 : 100 + index));
    expect(spikesIn(seen(counts), days)).toEqual([{ day: days[9], exposures: 900, usual: 106 }]);
  });
  it("are none while there are few days, few exposures, or a slow growth", () => {
    expect(spikesIn(seen([100, 100, 100, 900]), days)).toEqual([]);
    expect(spikesIn(seen(days.map((_, index) => (index === 9 ? 150 : 3))), days)).toEqual([]);
    expect(spikesIn(seen(days.map((_, index) => 100 * (index + 1))), days)).toEqual([]);
    expect(spikesIn([], days)).toEqual([]);
  });
});

describe("counts by hour", () => {
  it("go out as a table that can be read again", () => {
    const hour: HourRow = {
      hour: "2026-11-24T10:00:00Z",
      kind: "conversion",
      variant: "mail",
      arm: "b",
      name: "=order, large",
      country: "PT",
      source: "postbox",
      device: "phone",
      count: 3,
      firsts: 2,
      value: 5400,
    };
    const columns = ["slot", ...Object.keys(hour)];
    const read = readTable(hoursToCsv("hero", [hour]), { columns });
    const [line] = "rows" in read ? read.rows : [];
    expect(columns.map((column) => line?.cell(column))).toEqual(["hero", ...Object.values(hour).map(String)]);
  });
});
