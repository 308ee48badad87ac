/** What came of each variant and arm, added up from what was counted. */
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { readTable } from "../formats/table";
import { ruleset } from "../testing";
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
