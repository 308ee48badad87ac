import { finder } from "@/core/text/find";

/** A column of a table. */
export interface Column<Row> {
  id: string;
  name: string;
  /** What rows are sorted, searched and filtered by. */
  value: (row: Row) => string | number;
  /** What stands in it; the value, where it is left out. */
  cell?: (row: Row) => React.ReactNode;
  /** Its values are few: rows are filtered by them. */
  few?: true;
  /** Its share of the width beside the others; 1 where it is left out. */
  share?: number;
}

/** What of a table is looked at, and in which order. */
export interface TableView {
  /** Words that rows have. */
  find: string;
  /** The column by which they are sorted; undefined: the order that they come in. */
  sort: { column: string; down: boolean } | undefined;
  /** The value that rows have, by column. */
  only: Readonly<Record<string, string>>;
}

const only = "only-";

/** A value that rows are filtered by: what it is called, and how many rows have it, where that is known. */
export interface Choice {
  value: string;
  name?: string;
  count?: number;
}

/**
 * Reads a view from an address; what names no column of the table is passed over.
 *
 * @param of begins the names of its parameters, where a screen has several tables
 */
export function viewOf(
  query: URLSearchParams,
  columns: readonly Pick<Column<never>, "id" | "few">[],
  of = "",
): TableView {
  const asked = query.get(`${of}sort`) ?? "";
  const down = asked.startsWith("-");
  const column = down ? asked.slice(1) : asked;
  return {
    find: query.get(`${of}find`) ?? "",
    sort: columns.some(({ id }) => id === column) ? { column, down } : undefined,
    only: Object.fromEntries(
      columns.flatMap(({ id, few }) => {
        const value = few && query.get(of + only + id);
        return value ? [[id, value]] : [];
      }),
    ),
  };
}

/** A query with a view in it, and all else that it had. */
export function queryWith(query: URLSearchParams, view: TableView, of = ""): URLSearchParams {
  const out = new URLSearchParams(query);
  for (const name of [...out.keys()])
    if (name === `${of}find` || name === `${of}sort` || name.startsWith(of + only)) out.delete(name);
  if (view.find !== "") out.set(`${of}find`, view.find);
  if (view.sort) out.set(`${of}sort`, `${view.sort.down ? "-" : ""}${view.sort.column}`);
  for (const [id, value] of Object.entries(view.only)) out.set(of + only + id, value);
  return out;
}

/** The rows that have the words and the values asked for, in the order that they came in. */
export function rowsOf<Row>(rows: readonly Row[], columns: readonly Column<Row>[], view: TableView): readonly Row[] {
  const has = finder(view.find.trim());
  const wanted = columns.flatMap((column) => {
    const value = view.only[column.id];
    return value === undefined ? [] : [{ column, value }];
  });
  return rows.filter(
    (row) =>
      wanted.every(({ column, value }) => String(column.value(row)) === value) &&
      has(columns.map((column) => column.value(row)).join(" ")),
  );
}

/** The values of a column, each once, with how many rows have it, the most frequent first. */
export function choicesOf<Row>(rows: readonly Row[], column: Column<Row>): Required<Omit<Choice, "name">>[] {
  const counts = new Map<string, number>();
  for (const row of rows) {
    const value = String(column.value(row));
    if (value !== "") counts.set(value, (counts.get(value) ?? 0) + 1);
  }
  return [...counts].map(([value, count]) => ({ value, count })).sort((a, b) => b.count - a.count);
}
