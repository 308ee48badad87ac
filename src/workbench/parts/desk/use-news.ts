"use client";
import { useEffect, useRef } from "react";
import type { DeskNews } from "@/server/types";
import type { Actions } from "../actions";
import { siteBase } from "./site-address";

/** Should a notice be lost, it is asked anyway, every so many milliseconds. */
const askEvery = 30_000;
/** How long a notice is left to settle before it is followed. */
const settle = 300;

/**
 * Hears of what others change, and asks for it: `known` tells the version of the draft and the mark of what is live that are on
 * the screen, and how many changes of one's own have been answered (`own`); `hear` takes what is new.
 */
export function useNews(
  site: string,
  actions: Actions,
  known: { version: number; mark: string; own: () => number },
  hear: (news: DeskNews) => void,
): void {
  const now = useRef({ known, hear });
  useEffect(() => {
    now.current = { known, hear };
  });
  useEffect(() => {
    let asking = false;
    let again = false;
    const ask = async () => {
      if (asking) {
        again = true;
        return;
      }
      asking = true;
      do {
        // One's own change is announced, too: its answer comes first, and then nothing is new.
        await new Promise((next) => setTimeout(next, settle));
        again = false;
        const { version, mark, own } = now.current.known;
        const before = own();
        const news = await actions.news(version, mark).catch(() => undefined);
        // What was asked for before one's own last change was answered may be older than that: it is asked for once more.
        if (own() !== before) again = true;
        else if (news) now.current.hear(news);
      } while (again);
      asking = false;
    };
    const source = new EventSource(`${siteBase(site)}/news`);
    source.addEventListener("news", () => void ask());
    // After a break in the line something may have been missed.
    source.addEventListener("open", () => void ask());
    const timer = setInterval(() => void ask(), askEvery);
    return () => {
      source.close();
      clearInterval(timer);
    };
  }, [site, actions]);
}
