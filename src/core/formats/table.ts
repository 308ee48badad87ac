/** Tables as CSV (RFC 4180): read with line and column of whatever is wrong, written so that spreadsheets run nothing. */
import { t } from "../messages/t";
import Papa from "papaparse";
import type { Problem } from "./problem";

export interface TableRow {
  /** The line in the file, from 1. */
  line: number;
  /** A cell by its column, trimmed; "" where there is none. */
  cell(column: string): string;
  /** Where a cell stands, for problems: `line 3, column page`. */
  at(column: string): string;
}

/** A CSV file's bytes as text: UTF-8, with or without a mark; anything else is named. */
export function tableText(bytes: Uint8Array): { text: string } | { problems: Problem[] } {
  if ((bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff))
    return { problems: [{ path: "", code: "file", problem: t("this file is in UTF-16: save it as UTF-8") }] };
  try {
    return { text: new TextDecoder("utf-8", { fatal: true }).decode(bytes) };
  } catch {
    const before = new TextDecoder("utf-8").decode(bytes);
    const line = before.slice(0, before.indexOf("\uFFFD")).split("\n").length;
    return {
      problems: [
        { path: `line ${line}`, code: "file", problem: t("a letter is not in UTF-8: save the file as UTF-8") },
      ],
    };
  }
}

/** Reads a table with a heading. Unknown, missing and doubled columns are refused, as is a row that is longer than the heading. */
export function readTable(
  text: string,
  {
    columns,
    needed = [],
    oneOf = [],
  }: { columns: readonly string[]; needed?: readonly string[]; oneOf?: readonly string[] },
): { rows: TableRow[] } | { problems: Problem[] } {
  const parsed = Papa.parse<string[]>(text.replace(/^\uFEFF/, ""), { skipEmptyLines: false });
  const quoted = parsed.errors.find((error) => error.type === "Quotes");
  if (quoted)
    return {
      problems: [
        { path: `line ${(quoted.row ?? 0) + 1}`, code: "form", problem: t("a quote is opened and not closed") },
      ],
    };
  const [first, ...rest] = parsed.data;
  const heading = first?.map((cell) => cell.trim().toLowerCase()) ?? [];
  const expected = t("expected the columns {columns}", { columns: columns.join(", ") });
  if (heading.every((cell) => cell === ""))
    return {
      problems: [{ path: "line 1", code: "missing", problem: t("there is no heading: {expected}", { expected }) }],
    };
  const problems: Problem[] = [];
  heading.forEach((name, index) => {
    if (!columns.includes(name))
      problems.push({
        path: `line 1, column ${index + 1}`,
        code: "unknown-key",
        problem: t("“{name}” is not a known column: {expected}", { name, expected }),
      });
    else if (heading.indexOf(name) < index)
      problems.push({
        path: `line 1, column ${index + 1}`,
        code: "twice",
        problem: t("“{name}” is there twice", { name }),
      });
  });
  for (const name of needed)
    if (!heading.includes(name))
      problems.push({ path: "line 1", code: "missing", problem: t("the column “{name}” is missing", { name }) });
  if (oneOf.length > 0 && !oneOf.some((name) => heading.includes(name)))
    problems.push({
      path: "line 1",
      code: "missing",
      problem: t("one of the columns {oneOf} is needed", { oneOf: oneOf.join(", ") }),
    });
  if (problems.length > 0) return { problems };
  // A cell may hold line breaks: the line of a row is counted, not its number.
  let line = 1 + (first ?? []).join("").split("\n").length - 1;
  const rows: TableRow[] = [];
  for (const cells of rest) {
    line += 1;
    const here = line;
    line += cells.join("").split("\n").length - 1;
    if (cells.every((cell) => cell.trim() === "")) continue;
    if (cells.length > heading.length)
      problems.push({
        path: `line ${here}, column ${heading.length + 1}`,
        code: "size",
        problem: t("there are more cells than columns"),
      });
    rows.push({
      line: here,
      cell: (column) => cells[heading.indexOf(column)]?.trim().replace(/^'(?=[=+\-@\t\r])/, "") ?? "",
      at: (column) => t("line {here}, column {column}", { here, column }),
    });
  }
  return problems.length > 0 ? { problems } : { rows };
}

/** Writes a table. A cell that a spreadsheet would run as a formula gets an apostrophe before it (common practice). */
export const writeTable = (columns: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  `${Papa.unparse({ fields: [...columns], data: rows.map((row) => [...row]) }, { escapeFormulae: /^[=+\-@\t\r]/, newline: "\r\n" })}\r\n`;
