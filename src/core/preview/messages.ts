/** The messages between the workbench and a page that is looked at through a lens. */
import * as z from "zod";

/** The version of the protocol, as a page's first message tells it. */
export const previewVersion = 1;
/** The mark in a framed page's address by which the page script knows that it is looked at. No pass stands in an address. */
export const lookMark = "#mirada-look";

const path = z.string().startsWith("/").max(4000);
const count = z.number().int().min(0);

/** How a slot is outlined: number and letter, colour, and whether it is the one that is open. */
const markSchema = z.strictObject({ label: z.string().max(200), colour: z.string().max(40), selected: z.boolean() });
export type SlotMark = z.output<typeof markSchema>;

/** What a part of a page is, as people see it. */
export const partKinds = ["heading", "text", "button", "link", "picture", "block"] as const;
export type PartKind = (typeof partKinds)[number];

const longestPath = 500;
/** Selectors of the elements in whose open shadow roots it lies, from the outermost on. */
const withinSchema = z.array(z.string().max(longestPath)).min(1).max(10);
const words = z.string().max(300);
/** A value that was read from a page. */
const valueSchema = z.union([z.string().max(5000), z.number(), z.boolean(), z.array(z.string().max(5000)).max(100)]);

/** What a part has that a variant can change. */
const heldSchema = {
  kind: z.enum(partKinds),
  /** As people call it: Heading “Rooms with a view”. */
  name: words,
  /** Its text, if it is one: white space of any length is one space. */
  text: z.string().max(20_000).optional(),
  link: z.string().max(4000).optional(),
  image: z.strictObject({ src: z.string().max(4000), alt: z.string().max(1000).optional() }).optional(),
};
/** A part of a slot's place. `part`: a selector within the place that finds it alone; "": the place itself. */
const partSchema = z.strictObject({
  part: z.string().max(longestPath),
  ...heldSchema,
  /** In another place of the slot it says something else. */
  differs: z.literal(true).optional(),
});
export type Part = z.output<typeof partSchema>;

/** A part of a page that was pointed at. */
const pointedSchema = z.strictObject({
  selector: z.string().max(longestPath),
  within: withinSchema.optional(),
  /** What finds it and all that is like it on the page, and how many those are. */
  like: z
    .strictObject({ selector: z.string().max(longestPath), within: withinSchema.optional(), times: count })
    .optional(),
  ...heldSchema,
  /** Whether the selector counts positions: then it may find another part when the page changes. */
  byPosition: z.boolean(),
  /** What it lies in, from the widest on; by their numbers they can be chosen. */
  around: z.array(words).max(40),
  /** The slot that has its place there already. */
  slot: z.string().max(200).optional(),
  /** What it says, to be read as a value: what was typed into it, or carried for machines, else its text. */
  says: z.string().max(500).optional(),
});
export type Pointed = z.output<typeof pointedSchema>;

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
  /** Starts pointing at parts of the page, moves by one part, takes the one at hand, each like it or it alone, or ends it. */
  z.strictObject({
    mirada: z.literal("point"),
    to: z.enum(["start", "wider", "narrower", "next", "previous", "choose", "each", "alone", "again", "stop"]),
  }),
  /** Takes what lies around the part at hand, by its number. */
  z.strictObject({ mirada: z.literal("around"), number: count }),
  /** Asks for the parts of a slot's place, as the page itself has them. */
  z.strictObject({ mirada: z.literal("parts"), slot: z.string().max(200) }),
  /** Brings a slot's place into view. */
  z.strictObject({ mirada: z.literal("show"), slot: z.string().max(200) }),
  /** Asks for a picture of the page. */
  z.strictObject({ mirada: z.literal("picture"), width: count, height: count }),
]);
export type ToPage = z.output<typeof toPageSchema>;

/** What a page tells the workbench. */
export const fromPageSchema = z.discriminatedUnion("mirada", [
  /** The page is there, and waits for a look, or tells at once which one its address has led to. */
  z.strictObject({ mirada: z.literal("hello"), version: count, path }),
  /** A look stands: the slots that have a place on the page, in their order there. */
  z.strictObject({ mirada: z.literal("ready"), slots: z.array(z.string()), path, turn: count }),
  z.strictObject({ mirada: z.literal("slot"), id: z.string().max(200) }),
  z.strictObject({ mirada: z.literal("go"), href: z.string().max(4000) }),
  /** A form of the page was sent: where to, and with what. It changes the lens, never a real cart. */
  z.strictObject({ mirada: z.literal("form"), action: path, fields: z.record(z.string(), z.string()) }),
  /** What is pointed at; chosen, or only under the pointer. Without it nothing is any more. */
  z.strictObject({ mirada: z.literal("pointed"), chosen: z.boolean(), at: pointedSchema.optional() }),
  /** The parts of a slot's place. */
  z.strictObject({ mirada: z.literal("parts"), slot: z.string().max(200), parts: z.array(partSchema).max(300) }),
  /** A picture of the page, as a data address; without it none could be made. */
  z.strictObject({ mirada: z.literal("picture"), url: z.string().startsWith("data:image/").optional() }),
  /** A slot in which the page's own content stands, since its place or version does not fit the page any more. */
  z.strictObject({ mirada: z.literal("drift"), slot: z.string().max(200), why: z.string().max(300) }),
  /** What was read from the page, by the signals that the site collects. */
  z.strictObject({ mirada: z.literal("told"), path, values: z.record(z.string().max(200), valueSchema) }),
  /** What is amiss, in words. */
  z.strictObject({ mirada: z.literal("trouble"), says: z.string().max(500) }),
]);
export type FromPage = z.output<typeof fromPageSchema>;

/** A message of a page; undefined if it is none. */
export const readFromPage = (data: unknown): FromPage | undefined => fromPageSchema.safeParse(data).data;
/** A message of the workbench; undefined if it is none. */
export const readToPage = (data: unknown): ToPage | undefined => toPageSchema.safeParse(data).data;
