import fc from "fast-check";
import { expect, test } from "vitest";
import { choicesOf, queryWith, rowsOf, viewOf, type Column, type TableView } from "./table-view";

interface Pot {
  name: string;
  clay: string;
  size: number;
}
const columns: Column<Pot>[] = [
  { id: "name", name: "Name", value: ({ name }) => name },
  { id: "clay", name: "Clay", few: true, value: ({ clay }) => clay },
  { id: "size", name: "Size", value: ({ size }) => size },
];
const pots: Pot[] = [
  { name: "Brown pot", clay: "red", size: 12 },
  { name: "Blue bowl", clay: "white", size: 30 },
  { name: "Brown bowl", clay: "red", size: 9 },
];
const view = (parts: Partial<TableView>): TableView => ({ find: "", sort: undefined, only: {}, ...parts });

test("an address keeps what is searched, filtered and sorted, and all else that it had", () => {
  fc.assert(
    fc.property(
      fc.string({ maxLength: 20 }),
      fc.option(fc.record({ column: fc.constantFrom("name", "clay", "size"), down: fc.boolean() }), { nil: undefined }),
      fc.option(fc.string({ minLength: 1, maxLength: 10 }), { nil: undefined }),
      (find, sort, clay) => {
        const asked = view({ find, sort, only: clay === undefined ? {} : { clay } });
        const query = queryWith(new URLSearchParams("show=pots&find=old&only-clay=none"), asked);
        expect(viewOf(new URLSearchParams(query.toString()), columns)).toEqual(asked);
        expect(query.get("show")).toBe("pots");
      },
    ),
  );
});

test("what names no column is passed over", () => {
  expect(viewOf(new URLSearchParams("sort=-weight&only-size=9&only-weight=1"), columns)).toEqual(view({}));
});

test("rows have all words that are asked for, in whatever column, and the value", () => {
  expect(rowsOf(pots, columns, view({ find: "brown red" })).map(({ size }) => size)).toEqual([12, 9]);
  expect(rowsOf(pots, columns, view({ find: "bowl", only: { clay: "red" } })).map(({ size }) => size)).toEqual([9]);
  expect(rowsOf(pots, columns, view({ find: "  " }))).toHaveLength(3);
});

test("a column’s values are offered each once, the most frequent first", () => {
  expect(choicesOf(pots, columns[1] as Column<Pot>)).toEqual([
    { value: "red", count: 2 },
    { value: "white", count: 1 },
  ]);
});
