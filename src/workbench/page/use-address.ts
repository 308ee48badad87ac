"use client";
import { useSearchParams } from "next/navigation";
import { useEffect, useRef } from "react";
import { useDesk } from "../parts/desk/desk";
import { visitOfAddress } from "../parts/desk/visit-address";

/** How long what is looked at may change before the address follows, in milliseconds: dragging is no step of its own. */
const settle = 400;

/**
 * Keeps in the address what is looked at: lens, page and time beside slot and variant, so that it can be sent to a colleague, and is
 * there again after a reload. Another lens is a step in the browser's history, to which one can go back.
 */
export function useAddress(): void {
  const { lens, lenses, pickLens, look } = useDesk();
  const { visit, setVisit } = look;
  const url = new URL(visit.url);
  const page = `${url.pathname}${url.search}`;
  // Choosing a slot makes another address, which is then completed.
  const query = useSearchParams().toString();
  const last = useRef(lens);
  const moved = useRef(false);

  useEffect(() => {
    const timer = setTimeout(() => {
      const told = new URLSearchParams(window.location.search);
      if (lens) told.set("lens", lens);
      told.set("page", page);
      told.set("at", visit.at);
      const address = `${window.location.pathname}?${told.toString()}`;
      if (address === `${window.location.pathname}${window.location.search}`) return;
      // Going back to a lens is no new step.
      const isStep = last.current !== lens && !moved.current;
      // By the browser's own means: the router, which watches these, has nothing to do, and may be on its way elsewhere.
      History.prototype[isStep ? "pushState" : "replaceState"].call(window.history, window.history.state, "", address);
      last.current = lens;
      moved.current = false;
    }, settle);
    return () => clearTimeout(timer);
  }, [lens, page, visit.at, query]);

  const now = useRef({ lens, lenses, pickLens, visit, setVisit });
  useEffect(() => {
    now.current = { lens, lenses, pickLens, visit, setVisit };
  });
  useEffect(() => {
    const back = () => {
      const { lens: current, lenses: all, pickLens: pick, visit: before, setVisit: set } = now.current;
      const query = new URLSearchParams(window.location.search);
      const wanted = all.find((item) => item.id === query.get("lens"));
      const there = visitOfAddress(wanted && wanted.id !== current ? wanted.visit : before, query);
      moved.current = true;
      if (wanted && wanted.id !== current) pick({ ...wanted, visit: there });
      else if (there.at !== before.at || there.url !== before.url) set(there);
    };
    window.addEventListener("popstate", back);
    return () => window.removeEventListener("popstate", back);
  }, []);
}
