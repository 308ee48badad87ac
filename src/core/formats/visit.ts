import { t } from "../messages/t";
import { isUrl } from "../text/is-url";
import * as z from "zod";
import { day, daysInMonth, minute } from "../calendar/calendar";
import { readBy, type Read } from "./read";

const text = z.string();
const texts = z.array(text);

const instantShape = /^\d{4}-\d\d-\d\d[Tt]\d\d:\d\d:\d\d(?:\.\d+)?(?:[Zz]|[+-]\d\d:\d\d)$/;
/** The calendar begins again after 400 years; Date.UTC takes years below 100 for others. */
const fourCenturies = 146_097 * day;

/** Epoch milliseconds of an RFC 3339 instant, or undefined. A leap second counts as the second before it. Asked for each page view. */
export function parseInstant(value: string): number | undefined {
  if (!instantShape.test(value)) return undefined;
  const digit = (at: number): number => value.charCodeAt(at) - 48;
  const two = (at: number): number => digit(at) * 10 + digit(at + 1);
  const year = two(0) * 100 + two(2);
  const month = two(5);
  const date = two(8);
  const [hour, minutes, second] = [two(11), two(14), two(17)];
  if (month < 1 || month > 12 || date < 1 || date > daysInMonth(year, month)) return undefined;
  if (hour > 23 || minutes > 59 || second > 60) return undefined;
  let end = 19;
  let thousandths = 0;
  if (value[end] === ".") {
    for (end = 20; end < value.length && digit(end) >= 0 && digit(end) <= 9; end++)
      if (end < 23) thousandths += digit(end) * 10 ** (22 - end);
  }
  const at = Date.UTC(year + 400, month - 1, date, hour, minutes, Math.min(second, 59), thousandths) - fourCenturies;
  const sign = value[end];
  if (sign !== "+" && sign !== "-") return at;
  const [zoneHour, zoneMinute] = [two(end + 1), two(end + 4)];
  if (zoneHour > 23 || zoneMinute > 59) return undefined;
  const shift = (zoneHour * 60 + zoneMinute) * minute;
  return sign === "-" ? at + shift : at - shift;
}

/** The URL of an absolute http(s) address, or undefined. */
export function parseWebUrl(value: string): URL | undefined {
  if (!isUrl(value)) return undefined;
  const url = new URL(value);
  return url.protocol === "http:" || url.protocol === "https:" ? url : undefined;
}
/** Whether `parseWebUrl` would read it: mostly told by how it begins. */
const isWebUrl = (value: string): boolean =>
  /^https?:\/\//i.test(value) ? isUrl(value) : parseWebUrl(value) !== undefined;

const count = z
  .number()
  .int({ error: () => t("must be a whole number") })
  .min(0);

export const cartLineSchema = z.strictObject({
  sku: text,
  category: text.optional(),
  quantity: count,
  /** In the currency's minor unit. */
  unitPrice: count,
});
export type CartLine = z.output<typeof cartLineSchema>;

export const placeSchema = z.strictObject({
  country: text.optional(),
  region: text.optional(),
  city: text.optional(),
  zone: text.optional(),
  lat: z.number().optional(),
  lon: z.number().optional(),
});
/** Where a visitor is: ISO 3166-1 alpha-2 country, ISO 3166-2 region, city name, IANA zone, WGS 84 degrees. */
export type Place = z.output<typeof placeSchema>;

/** A visit (docs/engine.md, section 1): what is known about one page request. */
export const visitSchema = z.strictObject({
  at: text.refine((value) => parseInstant(value) !== undefined, {
    error: () => t("must be an instant such as 2026-11-24T10:15:00Z (RFC 3339)"),
  }),
  url: text.refine(isWebUrl, { error: () => t("must be an absolute http or https address") }),
  referrer: text.optional(),
  ip: text.optional(),
  place: placeSchema.optional(),
  userAgent: text.optional(),
  hints: z
    .strictObject({ mobile: z.boolean().optional(), platform: text.optional(), width: z.number().optional() })
    .optional(),
  acceptLanguage: text.optional(),
  cookies: z.record(text, text).optional(),
  zone: text.optional(),
  consent: z.unknown().optional(),
  visitorId: text.optional(),
  page: z
    .strictObject({
      id: text.optional(),
      category: text.optional(),
      tags: texts.optional(),
      language: text.optional(),
      text: text.optional(),
      data: z.record(text, z.unknown()).optional(),
    })
    .optional(),
  cart: z.strictObject({ currency: text.optional(), lines: z.array(cartLineSchema).default([]) }).optional(),
  data: z.record(text, z.unknown()).optional(),
  memory: z.unknown().optional(),
});
export type Visit = z.output<typeof visitSchema>;
export type Cart = NonNullable<Visit["cart"]>;

/** Reads a visit. Null means left out; an unknown key or a wrong type is a problem at its path. */
export function readVisit(input: unknown): Read<Visit> {
  const read = readBy(visitSchema, input);
  if (!read.ok || !emptyAsNotTold.some((key) => read.value[key] === "")) return read;
  const told = Object.entries(read.value).filter(
    ([key, value]) => value !== "" || !emptyAsNotTold.some((name) => name === key),
  );
  return { ok: true, value: Object.fromEntries(told) as Visit };
}

/** Keys of which empty text is as if nothing had been told. */
const emptyAsNotTold = ["visitorId", "userAgent", "referrer", "ip", "zone"] as const;
