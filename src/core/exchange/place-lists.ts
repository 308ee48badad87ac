/** Place lists as a CSV (RFC 4180), in and out: a row an entry. */
import { t } from "../messages/t";
import type { Problem } from "../formats/problem";
import { placeEntrySchema, type PlaceEntry, type PlaceList } from "../formats/ruleset";
import { checkPlaceEntry } from "../rules/check";
import { readTable, writeTable } from "../formats/table";

const placeListColumns = ["list", "name", "continent", "country", "region", "city", "lat", "lon", "km"] as const;

/** An empty list is a row without a place. */
export const placeListsToCsv = (lists: readonly PlaceList[]): string =>
  writeTable(
    placeListColumns,
    lists.flatMap((list) =>
      (list.places.length === 0 ? [{} as PlaceEntry] : list.places).map((place) => {
        const cells = place as Partial<Record<string, string | number>>;
        return [list.id, list.name, ...placeListColumns.slice(2).map((column) => cells[column] ?? "")];
      }),
    ),
  );

/** Reads place lists; every wrong row is named by line and column, and then nothing is read. */
export function placeListsFromCsv(text: string): { lists: PlaceList[] } | { problems: Problem[] } {
  const table = readTable(text, { columns: placeListColumns, needed: ["list"] });
  if ("problems" in table) return table;
  const problems: Problem[] = [];
  const lists = new Map<string, PlaceList>();
  for (const row of table.rows) {
    const id = row.cell("list");
    if (!/^[A-Za-z0-9_-]{1,64}$/.test(id))
      problems.push({ path: row.at("list"), code: "form", problem: t("must be 1 to 64 of A–Z, a–z, 0–9, _ and -") });
    let list = lists.get(id);
    if (!list) lists.set(id, (list = { id, name: row.cell("name") || id, places: [] }));
    const entry: Record<string, unknown> = {};
    for (const column of placeListColumns.slice(2)) {
      const cell = row.cell(column);
      if (cell === "") continue;
      const number = ["lat", "lon", "km"].includes(column);
      if (number && !Number.isFinite(Number(cell)))
        problems.push({ path: row.at(column), code: "kind", problem: t("“{cell}” is no number", { cell }) });
      entry[column] = number ? Number(cell) : cell;
    }
    if (Object.keys(entry).length === 0) continue;
    const read = placeEntrySchema.safeParse(entry);
    if (!read.success)
      problems.push({
        path: `line ${row.line}`,
        code: "missing",
        problem: t("expected a country (with region and city if you like), a continent, or lat, lon and km"),
      });
    else {
      for (const { path, ...fault } of checkPlaceEntry(read.data, {}))
        problems.push({ path: row.at(String(path[0])), ...fault });
      list.places.push(read.data);
    }
  }
  return problems.length > 0 ? { problems } : { lists: [...lists.values()] };
}
