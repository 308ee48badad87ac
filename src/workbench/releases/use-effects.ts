"use client";
import { speech } from "@/core/messages/t";
import { useEffect, useState } from "react";
import type { Effect, EffectStep } from "@/core/analysis/effects";
import type { KnownPage } from "@/core/analysis/made-visit";
import type { Ruleset } from "@/core/formats/ruleset";
import { now } from "@/clock";

export interface Effects {
  list: readonly Effect[];
  /** How far the search is, from 0 to 1; 1: it is over. */
  share: number;
}

/** For whom `after` changes what is shown, found in a worker. */
export function useEffects(
  before: Ruleset | undefined,
  after: Ruleset | undefined,
  pages: readonly KnownPage[],
): Effects {
  const [state, setState] = useState<Effects & { of?: unknown }>({ list: [], share: 0 });
  useEffect(() => {
    if (!before || !after) return;
    const worker = new Worker(new URL("./effects.worker.ts", import.meta.url), { type: "module" });
    const list: Effect[] = [];
    worker.onmessage = (event: MessageEvent<EffectStep | "done">) => {
      if (event.data === "done") return setState({ list, share: 1, of: after });
      const { done, of, effect } = event.data;
      if (effect) list.push(effect);
      setState({ list: [...list], share: Math.min(0.99, done / of), of: after });
    };
    worker.postMessage({ before, after, pages, from: now(), speech: speech() });
    return () => worker.terminate();
  }, [before, after, pages]);
  return state.of === after ? state : { list: [], share: 0 };
}
