"use client";
import { useEffect, useImperativeHandle, useRef, useState } from "react";
import type { Visit } from "@/core/formats/visit";
import { onPage } from "@/core/lens/pages";
import type { LookSource } from "@/server/types";
import { useDesk } from "../desk/desk";
import { widths, type Width } from "../devices";
import { useWay } from "./use-way";
import { pageLink, type PageLink } from "./page-link";

/** Slots to outline, by id: with what words and in what colour. */
export type Marks = Record<string, { label: string; colour: string; selected: boolean }>;

export interface CellHandle {
  /** A picture of what the cell shows, as a data address; undefined if none can be made. */
  picture: () => Promise<string | undefined>;
}
interface Props {
  visit: Visit;
  title: string;
  width: Width;
  /** How tall the page is shown, in its own pixels. */
  height?: number;
  marks?: Marks;
  /** Which rules it is under; the draft’s unless told otherwise. */
  source?: LookSource;
  ref?: React.Ref<CellHandle>;
}

/** The real page as one visitor sees it, small: made only once it comes into view. */
export function SiteCell({ visit, title, width, height = 900, marks, source = "draft", ref }: Props) {
  const { draft, actions, facts } = useDesk();
  const link = useRef<PageLink & { origin: string }>(undefined);
  const turn = useRef(0);
  const box = useRef<HTMLDivElement>(null);
  const frame = useRef<HTMLIFrameElement>(null);
  const [seen, setSeen] = useState(false);
  const [room, setRoom] = useState(240);
  const [src, setSrc] = useState<string>();
  const [ready, setReady] = useState(false);
  const { pathname, search } = new URL(visit.url);
  const { way } = useWay(`${pathname}${search}`);
  const { by, origin } = way ?? {};
  const asked = JSON.stringify([onPage(visit, facts), draft.version]);

  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const size = new ResizeObserver(([entry]) => entry && setRoom(entry.contentRect.width));
    const view = new IntersectionObserver(([entry]) => entry?.isIntersecting && setSeen(true), { rootMargin: "200px" });
    size.observe(element);
    view.observe(element);
    return () => {
      size.disconnect();
      view.disconnect();
    };
  }, []);

  useEffect(() => {
    if (!seen || !by || !origin || by === "none") return;
    let stale = false;
    const [of] = JSON.parse(asked) as [Visit];
    void actions.pass({ visit: of, source, pins: {}, plain: true }).then(
      (pass) => {
        if (stale || !pass) return;
        if (link.current?.origin !== origin)
          link.current = { origin, ...pageLink(origin, by, () => frame.current?.contentWindow) };
        const address = link.current.look({ pass, url: of.url, turn: ++turn.current });
        if (address) setSrc(address);
      },
      () => undefined,
    );
    return () => {
      stale = true;
    };
  }, [seen, asked, source, actions, by, origin]);

  const told = JSON.stringify(marks ?? null);
  useEffect(() => {
    const tell = () => link.current?.tell({ mirada: "marks", marks: JSON.parse(told) as Marks | null });
    const hear = (event: MessageEvent<unknown>) => {
      if (link.current?.read(event)?.mirada !== "ready") return;
      setReady(true);
      tell();
    };
    tell();
    window.addEventListener("message", hear);
    return () => window.removeEventListener("message", hear);
  }, [told]);

  const readyNow = useRef(ready);
  useEffect(() => {
    readyNow.current = ready;
  }, [ready]);
  useImperativeHandle(ref, () => ({
    async picture() {
      setSeen(true);
      for (let tries = 0; tries < 100 && !readyNow.current; tries++) await new Promise((next) => setTimeout(next, 100));
      return new Promise((resolve) => {
        const target = frame.current?.contentWindow;
        if (!target || !readyNow.current) return resolve(undefined);
        const end = (url: string | undefined) => {
          window.removeEventListener("message", hear);
          clearTimeout(timer);
          resolve(url);
        };
        const hear = (event: MessageEvent<unknown>) => {
          const message = link.current?.read(event);
          if (message?.mirada === "picture") end(message.url);
        };
        const timer = setTimeout(() => end(undefined), 15_000);
        window.addEventListener("message", hear);
        link.current?.tell({ mirada: "picture", width: widths[width], height });
      });
    },
  }));

  const scale = Math.min(1, room / widths[width]);
  return (
    <div
      ref={box}
      className="sitecell"
      data-width={width}
      // No wider than the page with its edges: beside it nothing would stand.
      style={{ height: height * scale, maxWidth: widths[width] + 2 }}
      data-ready={ready || undefined}
    >
      {src && (
        <iframe
          ref={frame}
          src={src}
          title={title}
          tabIndex={-1}
          sandbox="allow-scripts allow-same-origin"
          style={{ width: widths[width], height, transform: `scale(${scale})` }}
        />
      )}
    </div>
  );
}
