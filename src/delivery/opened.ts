/** Pop-ups count when they open: the page tells it, with the note that came with the decision. */
import { countOpened } from "@/core/decision/popups";
import type { Decision } from "@/core/decision/decision";
import type { Engine } from "@/core/decision/engine";
import { parseInstant } from "@/core/formats/visit";
import { now } from "@/clock";
import { readMemoryCookie, readOpenNote, writeMemoryCookie, writeOpenNote } from "./memory-cookie";

/** The note for a decision's pop-up; undefined if none opens, or this visitor is not remembered. */
export const openNoteOf = (
  { popup }: Decision,
  visitorId: string | undefined,
  at: string,
  secret: Uint8Array,
): string | undefined =>
  popup && visitorId !== undefined ? writeOpenNote(popup.id, visitorId, parseInstant(at) ?? now(), secret) : undefined;

/**
 * Counts a pop-up that has opened.
 * @param remembered the memory cookie as the visitor has it now
 * @returns the cookie after it; undefined: the note or the cookie is not ours, or it has been counted
 */
export function countOpening(
  { engine, secret }: { engine: Engine; secret: Uint8Array },
  remembered: string | undefined,
  note: string,
): string | undefined {
  const visitor = readMemoryCookie(remembered, secret);
  const read = visitor && readOpenNote(note, visitor.visitorId, now(), secret);
  if (!read) return undefined;
  const memory = countOpened(engine.ruleset, visitor.memory, read.popup, read.decided, now());
  return memory && writeMemoryCookie(visitor.visitorId, memory, secret);
}
