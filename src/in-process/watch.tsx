"use client";
import { useEffect } from "react";
import { nowText } from "@/clock";
import { watch, type Happened, type Seen } from "@/script/happened";

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
  /** Names this answer: another one is watched anew. */
  of: string;
}

/** Tells what is shown on a page, and what is clicked and reached. */
export function Watch({ shown, consent, source, of }: Props) {
  const text = JSON.stringify(shown);
  useEffect(() => {
    const seen = JSON.parse(text) as Seen[];
    return watch(seen, { consent, source, send: sendHappened });
  }, [text, consent, source, of]);
  return null;
}
