"use client";
import { usePathname, useSearchParams } from "next/navigation";
import { useEffect, useState } from "react";
import { queryWith, viewOf, type Column, type TableView } from "./table-view";

/** The address follows so long after the last key, in milliseconds. */
const pause = 250;

/**
 * What the address says of a table; what is chosen is shown at once, and the address follows without a step in the history.
 *
 * @param of begins the names in the address, where a screen has several tables
 */
export function useTableView(
  columns: readonly Pick<Column<never>, "id" | "few">[],
  of = "",
): [TableView, (view: TableView) => void] {
  const query = useSearchParams();
  const path = usePathname();
  const [view, setView] = useState(() => viewOf(new URLSearchParams(query), columns, of));
  useEffect(() => {
    const waiting = setTimeout(() => {
      const now = new URLSearchParams(window.location.search);
      const next = queryWith(now, view, of).toString();
      if (window.location.pathname === path && next !== now.toString())
        window.history.replaceState(null, "", next === "" ? path : `${path}?${next}`);
    }, pause);
    return () => clearTimeout(waiting);
  }, [view, path, of]);
  return [view, setView];
}
