"use client";
import { t } from "@/core/messages/t";
import { useEffect, useRef, useState } from "react";
import { useDesk } from "../parts/desk/desk";
import { keepHere } from "../parts/kept-here";
import { sideWidth, sideWidthOf } from "./side-width";

/** The edge of the part beside the page: dragged, or moved by arrow keys, it makes that part wider; a double click brings back the usual width. */
export function SideEdge() {
  const { kept } = useDesk();
  const [width, setWidth] = useState(kept.side);
  const edge = useRef<HTMLDivElement>(null);
  const from = useRef<{ x: number; width: number }>(undefined);
  // The desk's grid, of which the part is a column, goes by it: nothing else has to be drawn anew.
  useEffect(() => {
    edge.current?.closest<HTMLElement>(".desk")?.style.setProperty("--side", `${width}px`);
  }, [width]);
  const set = (wanted: number) => {
    const next = sideWidthOf(wanted);
    setWidth(next);
    keepHere(sideWidth.cookie, String(next));
  };
  const keys: Record<string, () => void> = {
    ArrowLeft: () => set(width + sideWidth.step),
    ArrowRight: () => set(width - sideWidth.step),
    Home: () => set(sideWidth.least),
    End: () => set(sideWidth.most),
  };
  return (
    <div
      ref={edge}
      className="sideedge"
      role="separator"
      aria-orientation="vertical"
      aria-label={t("Width of the slot’s part")}
      aria-valuemin={sideWidth.least}
      aria-valuemax={sideWidth.most}
      aria-valuenow={width}
      tabIndex={0}
      onDoubleClick={() => set(sideWidth.usual)}
      onKeyDown={(event) => {
        const press = keys[event.key];
        if (!press) return;
        event.preventDefault();
        press();
      }}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        from.current = { x: event.clientX, width };
      }}
      onPointerMove={(event) => {
        if (from.current) setWidth(sideWidthOf(from.current.width + from.current.x - event.clientX));
      }}
      onPointerUp={() => {
        if (from.current) set(width);
        from.current = undefined;
      }}
    />
  );
}
