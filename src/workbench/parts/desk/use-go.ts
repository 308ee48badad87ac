"use client";
import { usePathname, useRouter } from "next/navigation";
import { useCallback } from "react";

/**
 * Goes to an address of the workbench. Another part of the same screen opens at once, without asking the server: only the
 * query changes. `replace` leaves no step in the browser's history.
 */
export function useGo(): (address: string, options?: { replace?: boolean }) => void {
  const router = useRouter();
  const path = usePathname();
  return useCallback(
    (address, { replace = false } = {}) => {
      const [wanted] = address.split("?");
      if (wanted === path) window.history[replace ? "replaceState" : "pushState"](null, "", address);
      else if (replace) router.replace(address);
      else router.push(address);
    },
    [router, path],
  );
}
