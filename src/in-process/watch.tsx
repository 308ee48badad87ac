"use client";
import { useEffect } from "react";
import { nowText } from "@/clock";
import type { Counting } from "@/delivery/counting";
import { watchGoals } from "@/script/goals";
import { holdoutSeen, watch, type Happened, type Seen } from "@/script/happened";

/** Sends events to the page's own server, also while the page is being left. */
export function sendHappened(events: Happened[]): void {
  const body = JSON.stringify({ sent: nowText(), events });
  if (!navigator.sendBeacon?.("/happened", new Blob([body], { type: "text/plain" })))
    void fetch("/happened", { method: "POST", body, keepalive: true }).catch(() => undefined);
}

interface Props {
  shown: Seen[];
  consent: boolean;
  source: string;
  /** The goals of this page, and the side of the holdout. */
  counting: Counting;
  receipts: Readonly<Record<string, string>>;
  /** Names this answer: another one is watched anew. */
  of: string;
}

/** Tells what is shown on a page, and what is clicked and reached. */
export function Watch({ shown, consent, source, counting, receipts, of }: Props) {
  const text = JSON.stringify({ shown, counting, receipts });
  useEffect(() => {
    const {
      shown: seen,
      counting: counts,
      receipts: by,
    } = JSON.parse(text) as Pick<Props, "shown" | "counting" | "receipts">;
    return watch([...seen, ...holdoutSeen(counts.holdout)], {
      consent,
      source,
      send: sendHappened,
      goals: (reach) => watchGoals(counts.goals, reach),
      receipts: by,
    });
  }, [text, consent, source, of]);
  return null;
}
