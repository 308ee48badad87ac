"use client";
import { speech } from "@/core/messages/t";
import { useEffect, useState } from "react";
import type { Finding, Step } from "@/core/analysis/findings";
import type { KnownPage } from "@/core/analysis/made-visit";
import type { Ruleset } from "@/core/formats/ruleset";
import { now } from "@/clock";

export interface FindingsState {
  list: readonly Finding[];
  /** How far the search is, from 0 to 1; 1: it is over. */
  share: number;
  stopped: boolean;
  stop: () => void;
  again: () => void;
}

/**
 * Looks through the draft in a worker, anew a moment after each change.
 * @param pages undefined: they are not known yet, and it waits for them
 */
export function useFindings(ruleset: Ruleset, pages: readonly KnownPage[] | undefined): FindingsState {
  const [state, setState] = useState<{ list: Finding[]; share: number; stopped: boolean }>({
    list: [],
    share: 0,
    stopped: false,
  });
  const [turn, setTurn] = useState(0);
  const [stopped, setStopped] = useState(false);
  useEffect(() => {
    if (stopped || !pages) return;
    let worker: Worker | undefined;
    const timer = setTimeout(() => {
      worker = new Worker(new URL("./findings.worker.ts", import.meta.url), { type: "module" });
      const list: Finding[] = [];
      worker.onmessage = (event: MessageEvent<Step | "done">) => {
        if (event.data === "done") {
          setState({ list, share: 1, stopped: false });
          worker?.terminate();
          return;
        }
        const { done, of, finding } = event.data;
        if (finding) list.push(finding);
        setState({ list: [...list], share: Math.min(0.99, done / of), stopped: false });
      };
      worker.postMessage({ ruleset, pages, from: now(), speech: speech() });
    }, 700);
    return () => {
      clearTimeout(timer);
      worker?.terminate();
    };
  }, [ruleset, pages, turn, stopped]);
  return {
    ...state,
    stopped,
    stop: () => setStopped(true),
    again: () => {
      setStopped(false);
      setTurn(turn + 1);
    },
  };
}
