"use client";
import { useCallback, useEffect, useMemo, useState } from "react";
import type { Pointed, ToPage } from "@/core/preview/messages";
import type { PageLine } from "../parts/page-frame/page-line";

type Way = Extract<ToPage, { mirada: "point" }>["to"];

export const wantedFor = ["slot", "value", "goal", "worth"] as const;
type Wanted = (typeof wantedFor)[number];

/** Pointing at a part of the page: what is under the pointer, and what was taken. */
export interface Pointing {
  /** For which slot a place is looked for; null: for a new one; undefined: nobody points. */
  for: string | null | undefined;
  /** What a part is mostly wanted for: a slot, a value that it tells, a goal that it reaches, what that is worth. */
  wants: Wanted;
  /** The goal that is reached by it, or whose worth it says; undefined: a new one, or one that is chosen yet. */
  goal: string | undefined;
  at: Pointed | undefined;
  chosen: boolean;
  start: (slot: string | null, wants?: Wanted, goal?: string) => void;
  go: (to: Way) => void;
  around: (number: number) => void;
  stop: () => void;
}

export function usePointing(line: PageLine): Pointing {
  const [wanted, setWanted] = useState<string | null>();
  const [wants, setWants] = useState<Wanted>("slot");
  const [goal, setGoal] = useState<string>();
  const start = useCallback((slot: string | null, what: Wanted = "slot", of?: string) => {
    setWants(what);
    setGoal(of);
    setWanted(slot);
  }, []);
  const [told, setTold] = useState<{ at: Pointed | undefined; chosen: boolean }>({ at: undefined, chosen: false });
  const stop = useCallback(() => {
    setWanted(undefined);
    setTold({ at: undefined, chosen: false });
    line.tell({ mirada: "point", to: "stop" });
  }, [line]);
  useEffect(() => {
    if (wanted === undefined) return;
    const end = line.listen((message) => {
      // A page that came anew knows nothing of it.
      if (message.mirada === "hello") line.tell({ mirada: "point", to: "start" });
      if (message.mirada !== "pointed") return;
      setTold({ at: message.at, chosen: message.chosen });
      // Ended in the page itself, by Escape.
      if (!message.at && !message.chosen) setWanted(undefined);
    });
    line.tell({ mirada: "point", to: "start" });
    return end;
  }, [wanted, line]);
  return useMemo(
    () => ({
      for: wanted,
      wants,
      goal,
      ...told,
      start,
      go: (to) => line.tell({ mirada: "point", to }),
      around: (number) => line.tell({ mirada: "around", number }),
      stop,
    }),
    [wanted, wants, goal, told, line, start, stop],
  );
}
