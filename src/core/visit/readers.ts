/** How values are read of a visit, for the table of signals. */
import { isDate } from "../calendar/calendar";
import type { DataField } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { Text } from "../text/text";
import type { CartFigures, History, Reading, Value } from "./reading";

export function searchWords(r: Reading): string | undefined {
  const { referrer, rules } = r;
  if (referrer?.source) {
    const told = referrer.address.first(referrer.source.parameter);
    if (told !== undefined) return told;
  }
  for (const name of rules.wordParameters) {
    const told = r.page.first(name);
    if (told !== undefined) return told;
  }
  return undefined;
}

/** A value of the site's own data if it is of its field's kind; else absent, and noted. */
export function typed(r: Reading, signal: string, field: DataField, value: unknown): Value {
  if (value === undefined || value === null) return undefined;
  switch (field.kind) {
    case "text":
      if (typeof value === "string") return r.text(signal, () => value);
      break;
    case "texts":
      if (Array.isArray(value) && value.every((item) => typeof item === "string"))
        return value.length === 0 ? undefined : value.map((item: string) => new Text(item));
      break;
    case "number":
      if (typeof value === "number" && Number.isFinite(value)) return value;
      break;
    case "flag":
      if (typeof value === "boolean") return value;
      break;
    case "date":
      if (typeof value === "string" && isDate(value)) return value;
      break;
  }
  if (!r.misfits.includes(signal)) r.misfits = [...r.misfits, signal];
  return undefined;
}

export const own = <T>(record: Record<string, T> | undefined, name: string): T | undefined =>
  record && Object.hasOwn(record, name) ? record[name] : undefined;

export const texts = (list: readonly string[]): Text[] | undefined =>
  list.length === 0 ? undefined : list.map((item) => new Text(item));

/** The way to a signal’s value in a reading. */
export type Getter = (r: Reading) => Value;

let fixedCount = 0;
/** Reads a text signal with a fixed name once a visit: a look at an array after that. */
export const fixedText = (get: (r: Reading) => string | undefined): Getter => {
  const number = fixedCount++;
  return (r) => {
    const found = r.fixedTexts[number];
    if (found !== undefined) return found === false ? undefined : found;
    const raw = get(r);
    const text = raw === undefined ? undefined : new Text(raw);
    r.fixedTexts[number] = text ?? false;
    return text;
  };
};
export const deviceText = (part: "kind" | "os" | "browser"): Getter => {
  const told = fixedText((r) => r.device?.[part]);
  return (r) => (r.device === undefined ? null : told(r));
};
export const fromHistory =
  (get: (history: History, r: Reading) => Value): Getter =>
  (r) =>
    r.history === undefined ? null : get(r.history, r);
export const fromFigures =
  (get: (figures: CartFigures) => number): Getter =>
  (r) => {
    const figures = r.cartFigures;
    return figures === null ? null : get(figures);
  };
export const fromCart =
  (get: (lines: NonNullable<Visit["cart"]>["lines"]) => Value): Getter =>
  (r) =>
    r.visit.cart === undefined ? null : get(r.visit.cart.lines);
