import { t } from "../messages/t";
import * as z from "zod";
import { selectorSchema } from "./selector";

/** What a page can tell besides its own data fields: page facts, and the cart by its value and number of things alone. */
export const collectable = [
  "page.id",
  "page.category",
  "page.tags",
  "page.language",
  "page.text",
  "cart.subtotal",
  "cart.count",
] as const;

const key = z.string().min(1).max(200);
/** Where on a page a value stands. */
export const collectFromSchema = z.union([
  /** An element: what it says, or one of its attributes. */
  z.strictObject({
    selector: selectorSchema,
    attribute: z
      .string()
      .regex(/^[A-Za-z_][\w:.-]{0,99}$/, { error: () => t("must be the name of an attribute such as content") })
      .optional(),
  }),
  /** Linked data (JSON-LD 1.1) in the page: a type and the way from it to the value, such as `Product.offers.price`. */
  z.strictObject({ jsonLd: key }),
  /** A list of data objects in the page's scripts, by its name; the newest object that has the key counts. */
  z.strictObject({
    objects: z
      .string()
      .regex(/^[A-Za-z_$][\w$]{0,99}$/, { error: () => t("must be the name of a list such as siteData") }),
    key,
  }),
]);
export type CollectFrom = z.output<typeof collectFromSchema>;

/** Says where a page's own facts, cart or data are read from its pages (sites, section 5). */
export const collectSchema = z.strictObject({
  /** One of `collectable`, or a declared data field: `page.data.NAME`, `data.NAME`. */
  signal: z.string().min(1),
  from: collectFromSchema,
  /** What stands before the decimals of numbers; the other one, spaces and apostrophes group digits. */
  decimal: z.enum([".", ","]).optional(),
});
export type Collect = z.output<typeof collectSchema>;
