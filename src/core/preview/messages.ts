/** The messages between the workbench and a page that is looked at through a lens. */
import { z } from "zod";

/** The version of the protocol, as a page's first message tells it. */
export const previewVersion = 1;
/** The mark in a framed page's address by which the page script knows that it is looked at. No pass stands in an address. */
export const lookMark = "#mirada-look";

const path = z.string().startsWith("/").max(4000);
const count = z.number().int().min(0);

/** How a slot is outlined: number and letter, colour, and whether it is the one that is open. */
const markSchema = z.strictObject({ label: z.string().max(200), colour: z.string().max(40), selected: z.boolean() });
export type SlotMark = z.output<typeof markSchema>;

/** What the workbench tells a page. */
export const toPageSchema = z.discriminatedUnion("mirada", [
  /** Another look: by a pass of the session, or by the name of a shared lens. `turn` counts looks, so that late answers are known. */
  z.strictObject({
    mirada: z.literal("look"),
    pass: z.string().max(60).optional(),
    shared: z.string().max(60).optional(),
    path,
    turn: count,
  }),
  z.strictObject({ mirada: z.literal("marks"), marks: z.record(z.string(), markSchema).nullable() }),
  /** Asks for a picture of the page. */
  z.strictObject({ mirada: z.literal("picture"), width: count, height: count }),
]);
export type ToPage = z.output<typeof toPageSchema>;

/** What a page tells the workbench. */
export const fromPageSchema = z.discriminatedUnion("mirada", [
  /** The page is there, and waits for a look. */
  z.strictObject({ mirada: z.literal("hello"), version: count, path }),
  /** A look stands: the slots that have a place on the page, in their order there. */
  z.strictObject({ mirada: z.literal("ready"), slots: z.array(z.string()), path, turn: count }),
  z.strictObject({ mirada: z.literal("slot"), id: z.string().max(200) }),
  z.strictObject({ mirada: z.literal("go"), href: z.string().max(4000) }),
  /** A form of the page was sent: where to, and with what. It changes the lens, never a real cart. */
  z.strictObject({ mirada: z.literal("form"), action: path, fields: z.record(z.string(), z.string()) }),
  /** A picture of the page, as a data address; without it none could be made. */
  z.strictObject({ mirada: z.literal("picture"), url: z.string().startsWith("data:image/").optional() }),
  /** What is amiss, in words. */
  z.strictObject({ mirada: z.literal("trouble"), says: z.string().max(500) }),
]);
export type FromPage = z.output<typeof fromPageSchema>;

/** A message of a page; undefined if it is none. */
export const readFromPage = (data: unknown): FromPage | undefined => fromPageSchema.safeParse(data).data;
/** A message of the workbench; undefined if it is none. */
export const readToPage = (data: unknown): ToPage | undefined => toPageSchema.safeParse(data).data;
