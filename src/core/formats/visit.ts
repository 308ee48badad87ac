import { z } from "zod";
import { readBy, type Read } from "./read";

const text = z.string();
const texts = z.array(text);

/** Epoch milliseconds of an RFC 3339 instant, or undefined. A leap second counts as the second before it. */
export function parseInstant(value: string): number | undefined {
  const match = /^(\d{4}-\d\d-\d\d)T(\d\d):(\d\d):(\d\d)(\.\d+)?(Z|[+-]\d\d:\d\d)$/i.exec(value);
  if (!match) return undefined;
  const [, date, hour, minute, second, fraction = "", offset] = match as unknown as string[];
  if (Number(hour) > 23 || Number(minute) > 59 || Number(second) > 60) return undefined;
  const zone = (offset as string).toUpperCase();
  if (zone !== "Z" && (Number(zone.slice(1, 3)) > 23 || Number(zone.slice(4)) > 59)) return undefined;
  const at = Date.parse(
    `${date}T${hour}:${minute}:${second === "60" ? "59" : second}.${fraction.slice(1, 4).padEnd(3, "0")}Z`,
  );
  // Date.parse takes 30 February for 2 March: such dates do not exist.
  if (Number.isNaN(at) || new Date(at).toISOString().slice(0, 10) !== date) return undefined;
  const shift =
    zone === "Z" ? 0 : (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(4))) * (zone.startsWith("-") ? 1 : -1);
  return at + shift * 60_000;
}

/** The URL of an absolute http(s) address, or undefined. */
export function parseWebUrl(value: string): URL | undefined {
  if (!URL.canParse(value)) return undefined;
  const url = new URL(value);
  return url.protocol === "http:" || url.protocol === "https:" ? url : undefined;
}

const count = z.number().int("must be a whole number").min(0);

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

/** A visit (engine, section 1): what is known about one page request. */
export const visitSchema = z.strictObject({
  at: text.refine(
    (value) => parseInstant(value) !== undefined,
    "must be an instant such as 2026-11-24T10:15:00Z (RFC 3339)",
  ),
  url: text.refine((value) => parseWebUrl(value) !== undefined, "must be an absolute http or https address"),
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
export const readVisit = (input: unknown): Read<Visit> => readBy(visitSchema, input);
