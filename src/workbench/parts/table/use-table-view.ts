"use client";
import { usePathname, useSearchParams } from "next/navigation";
import { useEffect, useState } from "react";
import { queryWith, viewOf, type Column, type TableView } from "./table-view";

/** The address follows so long after the last key, in milliseconds. */
const pause = 250;

/** What the address says of a table; what is chosen is shown at once, and the address follows without a step in the history. */
export function useTableView(
  columns: readonly Pick<Column<never>, "id" | "few">[],
): [TableView, (view: TableView) => void] {
  const query = useSearchParams();
  const path = usePathname();
  const [view, setView] = useState(() => viewOf(new URLSearchParams(query), columns));
  useEffect(() => {
    const waiting = setTimeout(() => {
      const now = new URLSearchParams(window.location.search);
      const next = queryWith(now, view).toString();
      if (window.location.pathname === path && next !== now.toString())
        window.history.replaceState(null, "", next === "" ? path : `${path}?${next}`);
    }, pause);
    return () => clearTimeout(waiting);
  }, [view, path]);
  return [view, setView];
}
