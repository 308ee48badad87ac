import { said, text } from "@/core/messages/t";

/** Spans of time that a ribbon can show, in days. */
export const spans = { Day: 1, Week: 7, Month: 30 } as const;
export type SpanName = keyof typeof spans;
/** Their names. */
export const spanNames: Readonly<Record<SpanName, string>> = said({
  Day: text("Day"),
  Week: text("Week"),
  Month: text("Month"),
});
