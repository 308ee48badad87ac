"use client";
import { useSyncExternalStore } from "react";
import { readParts, type Parts } from "@/core/exchange/parts";

/** What was copied for another place is kept in this browser, for every site of the workbench, and lies in the clipboard, too. */
const key = "mirada-copied";
const changed = "mirada-copied-changed";

export async function keepCopied(parts: Parts): Promise<void> {
  const text = JSON.stringify(parts);
  localStorage.setItem(key, text);
  window.dispatchEvent(new Event(changed));
  // The clipboard may be closed to pages; then it is kept here alone.
  await navigator.clipboard?.writeText(text).catch(() => undefined);
}

let last: { text: string; parts: Parts | undefined } = { text: "", parts: undefined };
function read(): Parts | undefined {
  const text = localStorage.getItem(key) ?? "";
  if (text !== last.text) {
    const found = text === "" ? undefined : readParts(text);
    last = { text, parts: found && "parts" in found ? found.parts : undefined };
  }
  return last.parts;
}
function watch(hear: () => void): () => void {
  for (const name of ["storage", changed]) window.addEventListener(name, hear);
  return () => {
    for (const name of ["storage", changed]) window.removeEventListener(name, hear);
  };
}
/** What was copied last, if anything was. */
export const useCopied = (): Parts | undefined => useSyncExternalStore(watch, read, () => undefined);
