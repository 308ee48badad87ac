import { said, t, text as message } from "../messages/t";
import { isUrl } from "../text/is-url";
import * as z from "zod";
import { date, id, localDateTime, moneyText, name } from "./basics";
import { selectorSchema } from "./selector";
import { isZone } from "../calendar/zone";
import { ruleSchema } from "./rule";
import { exponentOf } from "../money/currency";
import { collectSchema } from "./collect";
import { goalSchema } from "./goal";

export const rule = ruleSchema.default(null);
const text = z.string();
const aboveZero = z.number().gt(0);

export const contentSchema = z.strictObject({
  type: text,
  fields: z.record(text, z.unknown()).default({}),
  tokens: z.record(text, z.strictObject({ signal: text, fallback: text.optional() })).default({}),
});
/** A block of content (docs/engine.md, section 11) of a declared type. */
export type Content = z.output<typeof contentSchema>;

export const armSchema = z.strictObject({ id, weight: z.number().min(0).max(100), content: contentSchema.nullable() });
export type Arm = z.output<typeof armSchema>;
const arms = z.array(armSchema).min(1);

export const variantSchema = z.strictObject({
  id,
  name,
  on: z.boolean().default(true),
  rule,
  rememberDays: aboveZero.optional(),
  arms,
});
export type Variant = z.output<typeof variantSchema>;

export const placeWays = ["replace", "before", "after", "first", "last"] as const;
/** Each of them in words, before what it leans on. */
export const placeWords: Record<(typeof placeWays)[number], string> = said({
  replace: message("in the place of"),
  before: message("before"),
  after: message("after"),
  first: message("inside, at the start of"),
  last: message("inside, at the end of"),
});
/** Where on a page a slot is, for pages that do not mark it: an element, and what becomes of it. */
export const slotPlaceSchema = z.strictObject({
  selector: selectorSchema,
  how: z.enum(placeWays).default("replace"),
  /** Selectors of the elements in whose open shadow roots (DOM Standard) it is looked for, from the outermost on. */
  within: z.array(selectorSchema).min(1).max(10).optional(),
  /** Everything that the selector finds is a place of the slot; else it has to find one element. */
  each: z.literal(true).optional(),
});

export type SlotPlace = z.output<typeof slotPlaceSchema>;
/** A place in words: after each .card a.button, within product-card. */
export const placeSays = ({ selector, how, within = [], each }: SlotPlace): string =>
  [
    how === "replace" ? "" : placeWords[how],
    each ? "each" : "",
    selector,
    ...within.toReversed().map((host) => t("within {host}", { host })),
  ]
    .filter((part) => part !== "")
    .join(" ");

/** The goal by which tests of a slot or pop-up are read first: a goal's id, or a name that pages tell. */
const mainGoal = z.string().min(1).max(80).optional();

export const slotSchema = z.strictObject({
  id,
  name,
  goal: mainGoal,
  pages: rule,
  at: slotPlaceSchema.optional(),
  take: z.number().int().min(1).default(1),
  variants: z.array(variantSchema).default([]),
  fallback: contentSchema.nullable().default(null),
});
export type Slot = z.output<typeof slotSchema>;

export const popupSchema = z.strictObject({
  id,
  name,
  goal: mainGoal,
  on: z.boolean().default(true),
  pages: rule,
  rule,
  arms,
  opensAfter: z.union([
    z.strictObject({ seconds: z.number().min(0) }),
    z.strictObject({ scrollPercent: z.number().min(0).max(100) }),
    z.strictObject({ leaving: z.literal(true) }),
    z.strictObject({ idleSeconds: z.number().min(0) }),
  ]),
  size: z.strictObject({ width: aboveZero, height: aboveZero }),
  cap: z
    .union([
      z.strictObject({ times: z.number().int().min(1), per: z.enum(["visit", "day", "ever"]) }),
      /** At most one in so many hours, across visits. */
      z.strictObject({ hours: z.number().gt(0).max(8784) }),
    ])
    .optional(),
});
export type Popup = z.output<typeof popupSchema>;

const dates = <K extends string>(from: K, until: K) =>
  ({ [from]: localDateTime.optional(), [until]: localDateTime.optional() }) as Record<
    K,
    z.ZodOptional<typeof localDateTime>
  >;

export const offerSchema = z.strictObject({
  id,
  name,
  on: z.boolean().default(true),
  rule,
  threshold: moneyText.optional(),
  scope: z
    .strictObject({ categories: z.array(text).min(1).optional(), skus: z.array(text).min(1).optional() })
    .optional(),
  reward: z.union([
    z.strictObject({ percent: z.number().gt(0).max(100) }),
    z.strictObject({ amount: moneyText }),
    z.strictObject({ freeDelivery: z.literal(true) }),
  ]),
  label: text,
  combines: z.boolean().default(true),
  ...dates("from", "until"),
});
export type Offer = z.output<typeof offerSchema>;

export const redirectSchema = z.strictObject({
  id,
  name,
  on: z.boolean().default(true),
  rule,
  to: text.min(1),
  status: z.union([z.literal(301), z.literal(302), z.literal(307), z.literal(308)]).default(302),
  keepQuery: z.boolean().default(false),
  frequency: z.enum(["always", "visit", "once"]).default("always"),
  skipBots: z.boolean().default(false),
  exemptAddresses: z.array(text).default([]),
});
export type Redirect = z.output<typeof redirectSchema>;

export const markerSchema = z.strictObject({
  id,
  name,
  gain: ruleSchema.optional(),
  gainViews: z.number().int().min(1).default(1),
  lose: rule,
  days: aboveZero,
  ...dates("setFrom", "setUntil"),
});
export type Marker = z.output<typeof markerSchema>;

const placeEntrySchema = z.union([
  z.strictObject({ country: text, region: text.optional(), city: text.optional() }),
  z.strictObject({ continent: text }),
  z.strictObject({ list: text }),
  z.strictObject({ lat: z.number(), lon: z.number(), km: z.number() }),
]);
/** One entry of a list of places: a country with region and city, a continent, a place list or a circle. */
export type PlaceEntry = z.output<typeof placeEntrySchema>;
export { placeEntrySchema };

export const fieldKinds = ["line", "text", "image", "link", "html", "number", "flag"] as const;
export type FieldKind = (typeof fieldKinds)[number];
export const dataKinds = ["text", "texts", "number", "flag", "date"] as const;
export type DataKind = (typeof dataKinds)[number];

export const blockTypeSchema = z.strictObject({
  id,
  name,
  fields: z.array(z.strictObject({ id, name, kind: z.enum(fieldKinds) })).default([]),
});
export type BlockType = z.output<typeof blockTypeSchema>;

export const siteSchema = z.strictObject({
  id,
  name,
  zone: z.string().refine(isZone, { error: () => t('must be the name of a time zone such as "Europe/Lisbon"') }),
  currency: z
    .string()
    .refine((code) => exponentOf(code) !== undefined, { error: () => t("must be a currency of ISO 4217 such as EUR") }),
  language: z.string().refine(isLanguage, { error: () => t("must be a language tag such as en or pt-PT") }),
  origin: z.string().refine(isOrigin, { error: () => t("must be an origin such as https://www.example.com") }),
  popupGapMinutes: z.number().min(0).default(0),
  /** Of 100 visitors who are remembered, so many see no variant and no pop-up: what all of it is worth is told beside them. */
  holdout: z.number().gt(0).max(50).optional(),
  /** What is told with a value above it counts apart from results; without it, nothing is too large. */
  largestValue: moneyText.optional(),
});
export type Site = z.output<typeof siteSchema>;

export const rulesetSchema = z.strictObject({
  format: z.literal("mirada-ruleset/1"),
  site: siteSchema,
  dataFields: z
    .array(z.strictObject({ signal: z.enum(["data", "page.data"]), name: text.min(1), kind: z.enum(dataKinds) }))
    .default([]),
  /** Where facts, cart and data of pages are read from the pages themselves. */
  collect: z.array(collectSchema).max(200).default([]),
  goals: z.array(goalSchema).max(200).default([]),
  wordParameters: z.array(text.min(1)).default([]),
  searchSources: z
    .array(z.strictObject({ host: text.min(1), engine: text.min(1), parameter: text.min(1) }))
    .default([]),
  placeLists: z.array(z.strictObject({ id, name, places: z.array(placeEntrySchema).default([]) })).default([]),
  audiences: z.array(z.strictObject({ id, name, rule })).default([]),
  markers: z.array(markerSchema).default([]),
  blockTypes: z.array(blockTypeSchema).default([]),
  slots: z.array(slotSchema).default([]),
  popups: z.array(popupSchema).default([]),
  offers: z.array(offerSchema).default([]),
  redirects: z.array(redirectSchema).default([]),
});
/** A ruleset (docs/engine.md, section 12), with every default filled in. */
export type Ruleset = z.output<typeof rulesetSchema>;
export type Audience = Ruleset["audiences"][number];
export type PlaceList = Ruleset["placeLists"][number];
export type DataField = Ruleset["dataFields"][number];
export type SearchSource = Ruleset["searchSources"][number];

function isLanguage(tag: string): boolean {
  try {
    return Intl.getCanonicalLocales(tag).length === 1;
  } catch {
    return false;
  }
}

function isOrigin(text: string): boolean {
  if (!isUrl(text)) return false;
  const url = new URL(text);
  return /^https?:$/.test(url.protocol) && (text === url.origin || text === `${url.origin}/`) && url.username === "";
}

export { date };
