"use client";
import { useMemo } from "react";
import { ContentFiller } from "@/core/content/format";
import type { Content, FieldKind } from "@/core/formats/ruleset";
import { useDesk } from "../desk/desk";

/** What the lens at hand reads where texts have values of the visit in them. */
export interface LensReading {
  /** A text as this visitor reads it, or the token that is missing. */
  text: (content: Content, source: string, kind: FieldKind) => string | { missing: string };
}

export function useReading(): LensReading {
  const { look } = useDesk();
  const { engine, visit } = look;
  return useMemo(() => {
    const filler = new ContentFiller(engine.ruleset);
    const reading = engine.read(visit);
    return { text: (content, source, kind) => filler.text(content, source, kind, reading) };
  }, [engine, visit]);
}
