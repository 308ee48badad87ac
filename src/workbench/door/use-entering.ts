"use client";
import { useState } from "react";
import { enter } from "./enter";

/** Asking to be let in: whether one is on the way, what is wrong, and what happens once one is in. */
export function useEntering(onIn: () => void) {
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const ask = (input: Record<string, string>): void => {
    setBusy(true);
    void enter(input).then((wrong) => {
      setBusy(false);
      setProblem(wrong);
      if (!wrong) onIn();
    });
  };
  return { ask, busy, problem };
}
