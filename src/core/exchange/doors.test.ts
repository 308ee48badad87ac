import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { applyEdits } from "../draft/edit";
import { replaceDraft } from "../draft/replace";
import { siteDraftSchema } from "../formats/site-draft";
import { outcomes, resultsToCsv, type ResultRow } from "../results/results";
import { ruleset, variant } from "../testing";
import { placeListsFromCsv, placeListsToCsv } from "./place-lists";
import { readTable, tableText, writeTable } from "../formats/table";
import { fileNames } from "./archive";
import { pathOf } from "./json-logic";

describe("place lists as a table", () => {
  const lists = [
    {
      id: "eu",
      name: "Where, “we” post",
      places: [{ country: "PT" }, { country: "ES", region: "ES-MD", city: "Madrid" }],
    },
    { id: "far", name: "Far", places: [{ continent: "NA" as const }, { lat: 38.7, lon: -9.1, km: 50 }] },
    { id: "none", name: "None", places: [] },
  ];
  it("come back as they went out", () => {
    expect(placeListsFromCsv(placeListsToCsv(lists))).toEqual({ lists });
  });
  it("name what is wrong by line and column, and then read nothing", () => {
    const read = placeListsFromCsv("list,country,lat,lon,km\neu,Portugal,,,\nx y,PT,,,\nfar,,a,1,2\n");
    expect("problems" in read && read.problems.map((item) => item.path)).toEqual([
      "line 2, column country",
      "line 3, column list",
      "line 4, column lat",
      "line 4",
    ]);
  });
});

describe("a table's bytes", () => {
  it("are UTF-8, with a mark or without; anything else is named with its line", () => {
    expect(tableText(new TextEncoder().encode("\uFEFFa,b"))).toMatchObject({ text: expect.stringContaining("a,b") });
    expect(tableText(Uint8Array.from([0xff, 0xfe, 0x61, 0]))).toMatchObject({ problems: [{ path: "", code: "file" }] });
    expect(tableText(Uint8Array.from([97, 10, 98, 10, 0xe9, 10]))).toMatchObject({
      problems: [{ path: "line 3", code: "file" }],
    });
  });
  it("never make the reader throw", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: fc.constantFrom(...'",\r\n ab;\t') }),
        (text) => void readTable(text, { columns: ["a", "b"] }),
      ),
    );
  });
});

describe("another ruleset in the place of this one", () => {
  const one = siteDraftSchema.parse(ruleset({ slots: [{ id: "s", name: "S", variants: [variant("a")] }] }));
  const two = siteDraftSchema.parse(
    ruleset({
      site: { ...one.site, id: "elsewhere", name: "Elsewhere" },
      audiences: [{ id: "x", name: "X", rule: null }],
    }),
  );
  it("is a list of edits that can be applied, and keeps the site’s id", () => {
    const done = applyEdits(one, replaceDraft(one, two));
    expect(done.ok && done.value).toEqual({ ...two, site: { ...two.site, id: one.site.id } });
    expect(replaceDraft(one, one)).toEqual([]);
  });
});

describe("signals as paths of JsonLogic", () => {
  it("have no dot within a step, whatever a parameter is called", () => {
    fc.assert(
      fc.property(
        fc.string({ unit: "grapheme", minLength: 1 }),
        fc.constantFrom("query.", "cookie.", "page.data.", "history.category."),
        (name, prefix) => {
          expect(pathOf(prefix + name)).toMatch(/^[A-Za-z0-9_-]+$/);
        },
      ),
    );
    expect(pathOf("query.a.b")).not.toBe(pathOf("query.a_b"));
    expect(pathOf("query.a_b")).not.toBe(pathOf("query.a_5f_b"));
  });
});

describe("results", () => {
  const row = (more: Partial<ResultRow>): ResultRow => ({
    of: "day",
    key: "2026-11-24",
    kind: "exposure",
    variant: "a",
    arm: "a",
    name: "",
    count: 1,
    firsts: 0,
    value: 0,
    ...more,
  });
  it("are never more than all: of nobody known there is no share", () => {
    const [only] = outcomes(
      [
        row({ count: 5, firsts: 2 }),
        row({ kind: "click", count: 9, firsts: 3 }),
        row({ kind: "conversion", name: "order", count: 2, firsts: 1, value: 100 }),
        row({ kind: "conversion", name: "letter", count: 4, firsts: 4 }),
      ],
      "order",
    );
    expect(only).toEqual({
      variant: "a",
      arm: "a",
      exposures: 5,
      visitors: 2,
      clicks: 9,
      clicked: 2,
      conversions: 2,
      converted: 1,
      value: 100,
    });
  });
  it("go out as a table that a spreadsheet runs nothing of", () => {
    const csv = resultsToCsv([row({ of: "source", key: "=cmd()" })], "s");
    expect(csv).toContain("'=cmd()");
    expect(csv.split("\r\n")[0]).toBe(
      "slot,by,of,variant,arm,exposures,visitors,clicks,clicked,conversions,converted,value",
    );
    for (const sign of ["\t", "\r"]) {
      const written = writeTable(["a"], [[`${sign}=cmd()`]]);
      expect(written).toContain(`'${sign}=cmd()`);
      const read = readTable(written, { columns: ["a"] });
      expect("rows" in read && read.rows[0]?.cell("a")).toBe(`${sign}=cmd()`);
    }
  });
  it("has files whose names lead nowhere else, and are never alike", () => {
    expect(fileNames(["popup:letter", "popup-letter", "../../etc/passwd", "Hero", "hero", "…", "Größe"])).toEqual([
      ["popup:letter", "popup-letter"],
      ["popup-letter", "popup-letter-2"],
      ["../../etc/passwd", "-etc-passwd"],
      ["Hero", "Hero"],
      ["hero", "hero-2"],
      ["…", "-"],
      ["Größe", "Größe"],
    ]);
  });
});
