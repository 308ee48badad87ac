"use client";
import type { VisitPhrases } from "@/core/lens/phrases";
import { ArrivalPart, LinkPart } from "./arrival-parts";
import { CartPart } from "./cart-part";
import type { PartProps } from "./parts";
import { DevicePart, LanguagePart, NextPart, PagePart, PlacePart, TimePart } from "./plain-parts";
import { ToldPart } from "./told-part";
import { VisitorPart } from "./visitor-part";

export type Part = keyof VisitPhrases | "next";

const editors: Record<Part, (props: PartProps) => React.ReactNode> = {
  page: PagePart,
  visitor: VisitorPart,
  device: DevicePart,
  place: PlacePart,
  language: LanguagePart,
  arrival: ArrivalPart,
  link: LinkPart,
  time: TimePart,
  cart: CartPart,
  told: ToldPart,
  next: NextPart,
};

/** The small editor of a part of the sentence. */
export function PartEditor({ part, ...props }: PartProps & { part: Part }) {
  const Editor = editors[part];
  return <Editor {...props} />;
}
