"use client";
import { useCallback, useEffect, useRef, useState } from "react";

interface Kept {
  value: string;
  /** Called with what was typed, a moment after the last key, when the field is left, and when its screen is. */
  onCommit: (value: string) => void;
  /** What is wrong with a text, in words: it is then not committed. */
  problem?: ((value: string) => string | undefined) | undefined;
  delay?: number;
}

interface Typed {
  /** What the field says: what is being typed, else what is saved. */
  text: string;
  type: (text: string) => void;
  /** To be called when the field is left. */
  leave: () => void;
}

let pointerDown = false;
if (typeof window !== "undefined") {
  window.addEventListener("pointerdown", () => (pointerDown = true), true);
  for (const end of ["pointerup", "pointercancel"]) window.addEventListener(end, () => (pointerDown = false), true);
}

/**
 * Does something now, or, while a button of the mouse is down, as soon as it is up: what is saved can move things on the screen, and
 * the click that left a field must still land where it was aimed. It comes after this, on what was there when the button came up
 * (Pointer Events, compatibility mouse events), and finds what was typed saved: what it then does is no conflict with it.
 */
function afterPointer(work: () => void): void {
  if (!pointerDown) return work();
  window.addEventListener("pointerup", work, { once: true, capture: true });
}

/** What is typed in a field: it is kept until it is good, and committed without being asked. */
export function useTyped({ value, onCommit, problem, delay = 350 }: Kept): Typed {
  const [typed, setTyped] = useState<string | undefined>(undefined);
  // What was undone or changed elsewhere is taken up, unless somebody is typing here.
  const text = typed ?? value;
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef({ text, value, onCommit, problem });
  useEffect(() => {
    latest.current = { text, value, onCommit, problem };
  });
  /** What was committed since the last key: it is not committed over what came by a button meanwhile. */
  const sent = useRef<string>(undefined);
  const commit = useCallback(() => {
    clearTimeout(timer.current);
    const { text: now, value: saved, onCommit: send, problem: check } = latest.current;
    if (now === saved || now === sent.current || check?.(now)) return;
    sent.current = now;
    send(now);
  }, []);
  useEffect(() => commit, [commit]);
  return {
    text,
    type(now) {
      setTyped(now);
      // At once: the field may be left before it has been drawn with what was typed.
      latest.current = { ...latest.current, text: now };
      sent.current = undefined;
      clearTimeout(timer.current);
      timer.current = setTimeout(commit, delay);
    },
    leave: () =>
      afterPointer(() => {
        commit();
        if (!latest.current.problem?.(latest.current.text)) setTyped(undefined);
      }),
  };
}
