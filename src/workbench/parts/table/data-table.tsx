"use client";
import { locale, t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import {
  columnVisibilityFeature,
  createSortedRowModel,
  rowSelectionFeature,
  rowSortingFeature,
  tableFeatures,
  useTable,
  type ColumnDef,
  type ColumnVisibilityState,
  type RowSelectionState,
  type Row as TableRow,
} from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, Columns3, Square, SquareCheck } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { choicesOf, rowsOf, type Choice, type Column, type TableView } from "./table-view";
import { useTableView } from "./use-table-view";

const features = tableFeatures({
  rowSortingFeature,
  sortedRowModel: createSortedRowModel(),
  rowSelectionFeature,
  columnVisibilityFeature,
});
type Features = typeof features;

/** As long as it is not measured, a row is so high, in pixels. */
const rowHeight = 40;

interface Props<Row> {
  /** What it is a table of: "Slots". */
  name: string;
  /** One of its rows, and several: "slot", "slots". */
  noun: readonly [one: string, several: string];
  rows: readonly Row[];
  columns: readonly Column<Row>[];
  idOf: (row: Row) => string;
  /** What a row is called where it is chosen. */
  nameOf: (row: Row) => string;
  /** Of which kind a row is, for tests and styles: `data-kind`. */
  markOf?: (row: Row) => string;
  /** What can be done with the rows that are chosen; without it none can be. `done` chooses none. */
  several?: (chosen: readonly Row[], done: () => void) => React.ReactNode;
  /** Shown where there is no row at all. */
  teaches: React.ReactNode;
}

/** Compares as people sort: numbers by size, texts by the language with the numbers in them by size. */
function comparer(): (a: string | number, b: string | number) => number {
  const collator = new Intl.Collator(locale(), { numeric: true, sensitivity: "base" });
  return (a, b) => (typeof a === "number" && typeof b === "number" ? a - b : collator.compare(String(a), String(b)));
}

/**
 * A table of many rows: searched, filtered, sorted, its columns chosen, and several rows worked on at once.
 *
 * @param props.of begins the names in the address, where a screen has several tables
 */
export function DataTable<Row extends object>({ of = "", ...props }: Props<Row> & { of?: string }) {
  const { rows, columns } = props;
  const [view, setView] = useTableView(columns, of);
  const shown = useMemo(() => rowsOf(rows, columns, view), [rows, columns, view]);
  return (
    <TableOf {...props} view={view} setView={setView} shown={shown} choices={(column) => choicesOf(rows, column)} />
  );
}

/** Rows that a server searches and filters, in its order, a portion at a time. */
interface Served<Row> {
  view: TableView;
  setView: (view: TableView) => void;
  /** What rows can be filtered by, in each column that has few values. */
  choices: (column: Column<Row>) => readonly Choice[];
  /** Asks for more, as one comes near the last row that is there; undefined: there are no more. */
  more: (() => void) | undefined;
}

/** A table of rows that a server gives by what is asked for. */
export function ServedTable<Row extends object>({ more, ...props }: Omit<Props<Row>, "several"> & Served<Row>) {
  return <TableOf {...props} shown={props.rows} served={{ more }} />;
}

interface OfProps<Row> extends Props<Row>, Omit<Served<Row>, "more"> {
  /** The rows that have what is searched and filtered by. */
  shown: readonly Row[];
  served?: Pick<Served<Row>, "more">;
}

function TableOf<Row extends object>(props: OfProps<Row>) {
  const { name, noun, rows, columns, idOf, nameOf, markOf, several, teaches, view, setView, shown, choices, served } =
    props;
  const [selection, setSelection] = useState<RowSelectionState>({});
  const [visible, setVisible] = useState<ColumnVisibilityState>({});
  const [choosing, setChoosing] = useState<HTMLElement | null>(null);
  const scroll = useRef<HTMLDivElement>(null);
  const definitions = useMemo((): ColumnDef<Features, Row>[] => {
    const compare = comparer();
    return columns.map((column) => ({
      id: column.id,
      header: column.name,
      accessorFn: column.value,
      sortFn: (a: TableRow<Features, Row>, b: TableRow<Features, Row>) =>
        compare(column.value(a.original), column.value(b.original)),
    }));
  }, [columns]);
  const sorting = useMemo(() => (view.sort ? [{ id: view.sort.column, desc: view.sort.down }] : []), [view.sort]);
  const table = useTable({
    features,
    data: shown as Row[],
    columns: definitions,
    state: { sorting, rowSelection: selection, columnVisibility: visible },
    getRowId: idOf,
    enableRowSelection: several !== undefined,
    enableSorting: served === undefined,
    onRowSelectionChange: setSelection,
    onColumnVisibilityChange: setVisible,
    onSortingChange(change) {
      const [next] = typeof change === "function" ? change(sorting) : change;
      setView({ ...view, sort: next && { column: next.id, down: next.desc } });
    },
  });
  const sorted = table.getRowModel().rows;
  // eslint-disable-next-line react-hooks/incompatible-library -- the compiler leaves this part as it is, and nothing of it is passed on
  const drawn = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => rowHeight,
    getItemKey: (index) => sorted[index]?.id ?? index,
    overscan: 8,
  });
  const items = drawn.getVirtualItems();
  const more = served?.more;
  const near = more !== undefined && (items.at(-1)?.index ?? 0) >= sorted.length - 10;
  useEffect(() => {
    if (near) more?.();
  }, [near, more, sorted.length]);
  const before = items[0]?.start ?? 0;
  const after = drawn.getTotalSize() - (items.at(-1)?.end ?? 0);
  const at = columns.filter(({ id }) => visible[id] !== false);
  const shares = at.reduce((sum, { share = 1 }) => sum + share, 0);
  // What is not shown just now is not worked on.
  const chosen = sorted.filter((row) => selection[row.id]).map((row) => row.original);
  const none = () => setSelection({});
  const width = at.length + (several ? 1 : 0);
  const filtered = view.find.trim() !== "" || Object.keys(view.only).length > 0;
  return (
    <>
      <div className="tabletools">
        <TextField
          placeholder={
            served
              ? t("Search {noun}", { noun: noun[1] })
              : t("Search {rows} {noun}", {
                  rows: rows.length.toLocaleString(locale()),
                  noun: noun[rows.length === 1 ? 0 : 1],
                })
          }
          value={view.find}
          onChange={(event) => setView({ ...view, find: event.target.value })}
          slotProps={{ htmlInput: { "aria-label": t("Search {noun}", { noun: noun[1] }) } }}
        />
        {columns
          .filter((column) => column.few)
          .map((column) => (
            <TextField
              key={column.id}
              select
              label={column.name}
              value={view.only[column.id] ?? ""}
              onChange={(event) => {
                const { [column.id]: _old, ...others } = view.only;
                const value = event.target.value;
                setView({ ...view, only: value === "" ? others : { ...others, [column.id]: value } });
              }}
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            >
              <MenuItem value="">{t("All")}</MenuItem>
              {choices(column).map(({ value, name = value, count }) => (
                <MenuItem key={value} value={value}>
                  {name} {count !== undefined && <span className="quiet">&ensp;{count.toLocaleString(locale())}</span>}
                </MenuItem>
              ))}
            </TextField>
          ))}
        <Button
          startIcon={<Columns3 size={14} />}
          aria-haspopup="menu"
          onClick={(event) => setChoosing(event.currentTarget)}
        >
          {t("Columns")}
        </Button>
        <Menu open={choosing !== null} anchorEl={choosing} onClose={() => setChoosing(null)}>
          {columns.slice(1).map((column) => {
            const on = visible[column.id] !== false;
            return (
              <MenuItem
                key={column.id}
                role="menuitemcheckbox"
                aria-checked={on}
                onClick={() => setVisible({ ...visible, [column.id]: !on })}
              >
                {on ? <SquareCheck size={16} aria-hidden /> : <Square size={16} aria-hidden />}
                &ensp; {column.name}
              </MenuItem>
            );
          })}
        </Menu>
      </div>
      {/* Where nothing in it is pressed, the keyboard scrolls it all the same. */}
      <div
        className="tablescroll"
        ref={scroll}
        {...(served ? { tabIndex: 0, role: "region", "aria-label": name } : {})}
      >
        <table aria-label={name} aria-rowcount={more ? -1 : sorted.length + 1}>
          <colgroup>
            {several && <col style={{ width: 56 }} />}
            {at.map(({ id, share = 1 }) => (
              <col key={id} style={{ width: `${(share / shares) * 100}%` }} />
            ))}
          </colgroup>
          <thead>
            <tr aria-rowindex={1}>
              {several && (
                <th scope="col">
                  <label className="tick">
                    <input
                      type="checkbox"
                      aria-label={t("Choose all {noun} shown", { noun: noun[1] })}
                      checked={sorted.length > 0 && chosen.length === sorted.length}
                      ref={(box) => {
                        if (box) box.indeterminate = chosen.length > 0 && chosen.length < sorted.length;
                      }}
                      disabled={sorted.length === 0}
                      onChange={({ target: { checked: on } }) =>
                        setSelection(on ? Object.fromEntries(sorted.map((row) => [row.id, true as const])) : {})
                      }
                    />
                  </label>
                </th>
              )}
              {table.getHeaderGroups()[0]?.headers.map((header) => {
                const order = header.column.getIsSorted();
                return (
                  <th
                    key={header.id}
                    scope="col"
                    aria-sort={order === "asc" ? "ascending" : order === "desc" ? "descending" : undefined}
                  >
                    {served ? (
                      <table.FlexRender header={header} />
                    ) : (
                      <button type="button" onClick={header.column.getToggleSortingHandler()}>
                        <table.FlexRender header={header} />
                        {order === "asc" && <ArrowUp size={13} aria-hidden />}
                        {order === "desc" && <ArrowDown size={13} aria-hidden />}
                      </button>
                    )}
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {before > 0 && (
              <tr aria-hidden>
                <td colSpan={width} style={{ height: before, padding: 0, border: 0 }} />
              </tr>
            )}
            {items.map((item) => {
              const row = sorted[item.index];
              if (!row) return null;
              return (
                <tr
                  key={row.id}
                  ref={drawn.measureElement}
                  data-index={item.index}
                  data-row={row.id}
                  data-kind={markOf?.(row.original)}
                  aria-rowindex={item.index + 2}
                  className={selection[row.id] ? "chosen" : undefined}
                >
                  {several && (
                    <td>
                      <label className="tick">
                        <input
                          type="checkbox"
                          aria-label={t("Choose {original}", { original: nameOf(row.original) })}
                          checked={selection[row.id] === true}
                          // By the click, which tells of Shift: a stretch of rows is chosen with it.
                          onClick={row.getToggleSelectedHandler()}
                          readOnly
                        />
                      </label>
                    </td>
                  )}
                  {at.map((column) => (
                    <td key={column.id}>{column.cell ? column.cell(row.original) : column.value(row.original)}</td>
                  ))}
                </tr>
              );
            })}
            {after > 0 && (
              <tr aria-hidden>
                <td colSpan={width} style={{ height: after, padding: 0, border: 0 }} />
              </tr>
            )}
          </tbody>
        </table>
        {rows.length === 0 && !(served && filtered) && <p className="teaches">{teaches}</p>}
        {sorted.length === 0 && (rows.length > 0 || (served && filtered)) && (
          <p className="quiet searchnone" role="status">
            {t("No {noun} are like that.", { noun: noun[1] })}{" "}
            {filtered && (
              <button type="button" className="link" onClick={() => setView({ ...view, find: "", only: {} })}>
                {served ? t("Show all") : t("Show all {rows}", { rows: rows.length.toLocaleString(locale()) })}
              </button>
            )}
          </p>
        )}
      </div>
      {several && (
        <div
          className="severalbar"
          role="toolbar"
          aria-label={t("The {noun} that are chosen", { noun: noun[1] })}
          hidden={chosen.length === 0}
        >
          {chosen.length > 0 && (
            <>
              <b role="status">{t("{chosen} chosen", { chosen: chosen.length.toLocaleString(locale()) })}</b>
              {several(chosen, none)}
              <Button variant="text" onClick={none}>
                {t("Choose none")}
              </Button>
            </>
          )}
        </div>
      )}
    </>
  );
}
