import dayjs, { type Dayjs } from "dayjs";
import utc from "dayjs/plugin/utc.js";

dayjs.extend(utc);

export type Grain = "day" | "minute";

const shapes: Record<Grain, string> = { day: "YYYY-MM-DD", minute: "YYYY-MM-DDTHH:mm" };
/** Stands for a date that is typed in part, or that does not exist; no format takes it. */
export const unfinished = "?";

/** The moment of `YYYY-MM-DD` or `YYYY-MM-DDTHH:MM`, on a clock that knows no zone; null of an empty text. */
export const momentOf = (text: string): Dayjs | null => (text === "" ? null : dayjs.utc(text));

/** The text of a moment; empty of none. A year that is still being typed (2, 20, 202 of 2026) makes no date yet. */
export const textOf = (moment: Dayjs | null, grain: Grain): string =>
  moment === null ? "" : moment.isValid() && moment.year() >= 1000 ? moment.format(shapes[grain]) : unfinished;
