"use client";
import TextField, { type TextFieldProps } from "@mui/material/TextField";
import { useCallback, useEffect, useRef, useState } from "react";

type Props = Omit<TextFieldProps, "value" | "onChange" | "error"> & {
  value: string;
  /** Called with what was typed, a moment after the last key and when the field is left. */
  onCommit: (value: string) => void;
  /** What is wrong with a text, in words: it is then shown at the field and not committed. */
  problem?: (value: string) => string | undefined;
  /** A problem that is known from elsewhere. */
  known?: string | undefined;
  delay?: number;
};

let pointerDown = false;
if (typeof window !== "undefined") {
  window.addEventListener("pointerdown", () => (pointerDown = true), true);
  for (const end of ["pointerup", "pointercancel"]) window.addEventListener(end, () => (pointerDown = false), true);
}

/**
 * Does something now, or, while a button of the mouse is down, once it is up: what is saved can move things on the screen,
 * and the click that left a field must still land where it was aimed.
 */
function afterPointer(work: () => void): void {
  if (!pointerDown) return work();
  window.addEventListener("pointerup", () => setTimeout(work), { once: true, capture: true });
}

/** A text field that keeps what is typed until it is good, and commits it without being asked. */
export function Field({ value, onCommit, problem, known, delay = 350, helperText, ...rest }: Props) {
  const [typed, setTyped] = useState<string | undefined>(undefined);
  // What was undone or changed elsewhere is taken up, unless somebody is typing here.
  const text = typed ?? value;
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef({ text, value, onCommit, problem });
  useEffect(() => {
    latest.current = { text, value, onCommit, problem };
  });
  const commit = useCallback(() => {
    clearTimeout(timer.current);
    const { text: now, value: saved, onCommit: send, problem: check } = latest.current;
    if (now !== saved && !check?.(now)) send(now);
  }, []);
  useEffect(() => commit, [commit]);
  const wrong = problem?.(text) ?? known;
  return (
    <TextField
      {...rest}
      value={text}
      error={wrong !== undefined}
      helperText={wrong ?? helperText}
      onChange={(event) => {
        setTyped(event.target.value);
        // At once: the field may be left before it has been drawn with what was typed.
        latest.current = { ...latest.current, text: event.target.value };
        clearTimeout(timer.current);
        timer.current = setTimeout(commit, delay);
      }}
      onBlur={() =>
        afterPointer(() => {
          commit();
          if (!latest.current.problem?.(latest.current.text)) setTyped(undefined);
        })
      }
    />
  );
}
