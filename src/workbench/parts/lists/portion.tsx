"use client";
import { t } from "@/core/messages/t";
import { useEffect, useRef, useState } from "react";

interface Props<Item> {
  items: readonly Item[];
  /** So many are shown at first, and more at a time. */
  step?: number;
  /** The one that must be among those that are shown, such as the one that is open. */
  at?: Item | undefined;
  /** What stands around the button: an item of the list where the rows are. */
  row?: "div" | "li";
  children: (item: Item, index: number) => React.ReactNode;
}

/** A long list, a portion at a time: more comes as one gets near its end, and by the button that stands there. */
export function Portion<Item>({ items, step = 60, at, row: Row = "div", children }: Props<Item>) {
  const [wanted, setWanted] = useState(step);
  const end = useRef<HTMLButtonElement>(null);
  const least = at === undefined ? 0 : items.indexOf(at) + 1;
  const shown = Math.max(wanted, Math.ceil(least / step) * step);
  const left = items.length - shown;
  useEffect(() => {
    const button = end.current;
    if (!button || typeof IntersectionObserver === "undefined") return;
    const near = new IntersectionObserver(
      ([entry]) => entry?.isIntersecting && setWanted((old) => Math.max(old, shown) + step),
      { rootMargin: "300px" },
    );
    near.observe(button);
    return () => near.disconnect();
  }, [shown, step, left]);
  return (
    <>
      {items.slice(0, shown).map(children)}
      {left > 0 && (
        <Row className="portion">
          <button ref={end} type="button" className="link" onClick={() => setWanted(shown + step)}>
            {t("Show {min} more of {items}", { min: Math.min(step, left), items: items.length })}
          </button>
        </Row>
      )}
    </>
  );
}
