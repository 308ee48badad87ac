"use client";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { keepSame } from "@/core/draft/edit";
import type { DeskNews, ListChanged, ListItems, ListName, ListPart, OpenedDesk } from "@/server/types";
import type { Actions } from "../actions";

/** A list as far as it is known: its mark when it was read, and after how many the rest begins; null: it is whole. */
type Known<L extends ListName> = ListPart<L>;
type AllKnown = { [L in ListName]: Known<L> };

/** Lists that change under the reading are begun anew so many times at most; the next news begin again. */
const mostTries = 5;
const nothing = { items: [], mark: "", next: 0 };
/** By what things of a list are told apart. */
const keyOf = (item: ListItems[ListName]): string => ("id" in item ? item.id : "path" in item ? item.path : item.sku);

/** The lists of a site as the desk has them: read in parts, those that a screen needs, and anew when somebody else changed them. */
export interface Lists {
  of: { readonly [L in ListName]: readonly ListItems[L][] };
  isWhole: (name: ListName) => boolean;
  /** Reads a list to its end. */
  need: (name: ListName) => void;
  /** Shows of a list what one's own change makes of it, before the server has answered; or what it was, if it would not. */
  show: <L extends ListName>(name: L, change: (items: readonly ListItems[L][]) => readonly ListItems[L][]) => void;
  /** Takes the answer to one's own change: what was kept comes where it stood, or at the end; `gone` is no longer there. */
  changed: <L extends ListName>(name: L, answer: ListChanged<L>, ...gone: readonly string[]) => void;
  /** Reads a list anew: one's own change made more of it than could be told. */
  again: (name: ListName) => void;
  /** Hears how the lists stand, and reads anew what is needed and has changed. */
  hear: (marks: DeskNews["lists"]) => void;
}

export function useLists(opened: OpenedDesk["lists"], actions: Pick<Actions, "list">): Lists {
  const [lists, setLists] = useState<AllKnown>(
    () =>
      ({ pages: nothing, lenses: nothing, links: nothing, checks: nothing, products: nothing, ...opened }) as AllKnown,
  );
  /** What is known at this moment, also between two drawings. */
  const known = useRef(lists);
  const needed = useRef(new Set<ListName>());
  /** What is being read just now, with the mark that was heard of meanwhile. */
  const reading = useRef(new Map<ListName, string | undefined>());
  /** Counts one's own changes of each list: what was on its way before is older. */
  const own = useRef(new Map<ListName, number>());

  const put = useCallback(<L extends ListName>(name: L, next: Known<L>) => {
    const items = keepSame(known.current[name].items, next.items);
    known.current = { ...known.current, [name]: { ...next, items } };
    setLists(known.current);
  }, []);

  const read = useCallback(
    async <L extends ListName>(name: L, anew: boolean): Promise<void> => {
      if (reading.current.has(name)) return;
      reading.current.set(name, undefined);
      try {
        const before = own.current.get(name);
        let sofar: Known<L> = anew ? nothing : known.current[name];
        for (let tries = 0; sofar.next !== null && tries < mostTries;) {
          const part = (await actions.list(name, sofar.next)) as ListPart<L>;
          if (own.current.get(name) !== before) return;
          if (sofar.next > 0 && part.mark !== sofar.mark) {
            tries += 1;
            sofar = nothing;
            anew = true;
          } else sofar = { ...part, items: [...sofar.items, ...part.items] };
          // What is read for the first time is shown part by part; what is there stays until all of it was read anew.
          if (!anew || sofar.next === null) put(name, sofar);
        }
      } catch {
        // The next news begin again.
      } finally {
        const heard = reading.current.get(name);
        reading.current.delete(name);
        if (heard !== undefined && heard !== known.current[name].mark) void latest.current(name, true);
      }
    },
    [actions, put],
  );

  const latest = useRef(read);
  useEffect(() => {
    latest.current = read;
  }, [read]);

  const need = useCallback(
    (name: ListName) => {
      needed.current.add(name);
      if (known.current[name].next !== null) void read(name, false);
    },
    [read],
  );
  const show = useCallback(
    <L extends ListName>(name: L, change: (items: readonly ListItems[L][]) => readonly ListItems[L][]) => {
      own.current.set(name, (own.current.get(name) ?? 0) + 1);
      put(name, { ...known.current[name], items: [...change(known.current[name].items)] });
    },
    [put],
  );
  const changed = useCallback(
    <L extends ListName>(name: L, { was, mark, kept }: ListChanged<L>, ...gone: readonly string[]) => {
      const { items, mark: before, next } = known.current[name];
      const fresh = new Map(kept.map((item) => [keyOf(item), item]));
      const left = new Set(gone);
      const after = items.filter((item) => !left.has(keyOf(item))).map((item) => fresh.get(keyOf(item)) ?? item);
      const there = new Set(after.map(keyOf));
      own.current.set(name, (own.current.get(name) ?? 0) + 1);
      put(name, {
        // At the end of a list that is not read to its end stands something else.
        items: next === null ? [...after, ...kept.filter((item) => !there.has(keyOf(item)))] : after,
        mark: before === was || before === mark ? mark : "",
        next,
      });
    },
    [put],
  );
  const again = useCallback(
    (name: ListName) => {
      if (reading.current.has(name)) reading.current.set(name, "");
      else void read(name, true);
    },
    [read],
  );
  const hear = useCallback(
    (marks: DeskNews["lists"]) => {
      for (const name of needed.current) {
        const { mark, next } = known.current[name];
        if (reading.current.has(name)) reading.current.set(name, marks[name]);
        else if (next !== null) void read(name, false);
        else if (mark !== marks[name]) void read(name, true);
      }
    },
    [read],
  );
  useEffect(() => {
    // What every screen leans on: facts of pages for findings, lenses to look through, checks for the line at the top.
    for (const name of ["pages", "lenses", "checks"] as const) need(name);
  }, [need]);

  return useMemo(
    () => ({
      of: {
        pages: lists.pages.items,
        lenses: lists.lenses.items,
        links: lists.links.items,
        checks: lists.checks.items,
        products: lists.products.items,
      },
      isWhole: (name) => lists[name].next === null,
      need,
      show,
      changed,
      again,
      hear,
    }),
    [lists, need, show, changed, again, hear],
  );
}
