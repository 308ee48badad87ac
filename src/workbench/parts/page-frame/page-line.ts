"use client";
import { createContext, useContext, useEffect, useRef, useState } from "react";
import type { FromPage, Part, ToPage } from "@/core/preview/messages";

/** The line to the page in the frame, for whatever stands beside it. */
export interface PageLine {
  tell: (message: ToPage) => void;
  /** Hears every message of the page. @returns what ends that */
  listen: (hear: (message: FromPage) => void) => () => void;
  /** For the frame itself: how its page is told, and what it has said. */
  attach: (tell: ((message: ToPage) => void) | undefined) => void;
  heard: (message: FromPage) => void;
}

function makeLine(): PageLine {
  const listeners = new Set<(message: FromPage) => void>();
  let told: ((message: ToPage) => void) | undefined;
  return {
    tell: (message) => told?.(message),
    listen(hear) {
      listeners.add(hear);
      return () => listeners.delete(hear);
    },
    attach: (tell) => (told = tell),
    heard: (message) => listeners.forEach((hear) => hear(message)),
  };
}

export const PageLineContext = createContext<PageLine | undefined>(undefined);
export const useNewPageLine = (): PageLine => useState(makeLine)[0];
/** The line to the page; undefined where no page stands beside. */
export const usePageLine = (): PageLine | undefined => useContext(PageLineContext);

/**
 * The parts of a slot's place as the page itself has them; undefined until the page has told them. Asked anew whenever another look
 * stands.
 */
export function useParts(slot: string): readonly Part[] | undefined {
  const line = usePageLine();
  const [parts, setParts] = useState<readonly Part[]>();
  const last = useRef("");
  useEffect(() => {
    if (!line) return;
    const ask = () => line.tell({ mirada: "parts", slot });
    const end = line.listen((message) => {
      if (message.mirada === "ready") ask();
      if (message.mirada !== "parts" || message.slot !== slot) return;
      const told = JSON.stringify(message.parts);
      if (told !== last.current) setParts(message.parts);
      last.current = told;
    });
    ask();
    return end;
  }, [line, slot]);
  return parts;
}
