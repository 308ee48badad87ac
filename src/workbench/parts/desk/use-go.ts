"use client";
import { useRouter } from "next/navigation";
import { useCallback } from "react";
import { siteBase, useScreen, useSiteId } from "./site-address";

/**
 * Goes to a screen of this site. Another part of the same screen opens at once, without asking the server: only the query
 * changes. `replace` leaves no step in the browser's history.
 */
export function useGo(): (address: string, options?: { replace?: boolean }) => void {
  const router = useRouter();
  const screen = useScreen();
  const base = siteBase(useSiteId());
  return useCallback(
    (address, { replace = false } = {}) => {
      const [wanted] = address.split("?");
      const to = `${base}${address}`;
      if (wanted === screen) window.history[replace ? "replaceState" : "pushState"](null, "", to);
      else if (replace) router.replace(to);
      else router.push(to);
    },
    [router, screen, base],
  );
}
