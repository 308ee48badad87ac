"use client";
import { createContext, useContext } from "react";
import type { RuleNote } from "@/core/analysis/notes";
import type { Rule } from "@/core/formats/rule";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Way } from "@/core/rules/arrange";

/** What every part of a rule editor needs: the whole rule, and the ways to change it. */
export interface Editing {
  ruleset: Ruleset;
  whole: Rule;
  refused: ((signal: string) => boolean) | undefined;
  within: string | undefined;
  /** The part whose form is open, as its way written out. */
  open: string | undefined;
  setOpen: (open: string | undefined) => void;
  notes: readonly RuleNote[];
  /** The languages that the other versions of the slot ask for. */
  otherLanguages: readonly string[];
  replace: (way: Way, part: Rule) => void;
  remove: (way: Way) => void;
  /** Takes a rearranged whole. */
  rearrange: (rule: Rule) => void;
  /** Adds a part at the end of the group at `way` and opens it. */
  add: (way: Way, part: Rule) => void;
  ask: (what: "paste" | "copy" | "audience", way: Way) => void;
}

export const RuleContext = createContext<Editing | undefined>(undefined);

export function useEditing(): Editing {
  const editing = useContext(RuleContext);
  if (!editing) throw new Error("useEditing needs a rule editor around it");
  return editing;
}
