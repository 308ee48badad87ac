/** What the delivery server takes and answers. The OpenAPI description is made from these schemas. */
import * as z from "zod";
import { problemCodes } from "@/core/formats/problem";
import { collectFromSchema } from "@/core/formats/collect";
import { pageGoalSchema } from "@/core/formats/goal";
import { decisionSchema } from "@/core/formats/decision-schema";
import { eventSchema } from "@/core/formats/event";
import { slotPlaceSchema } from "@/core/formats/ruleset";
import { visitSchema } from "@/core/formats/visit";
import { storable } from "@/core/formats/storable";

/** By SLOT/VARIANT/ARM, what is told again with whatever happens to it (`receipt` of an event). A pop-up's slot is popup:ID. */
const receiptsSchema = z.record(z.string(), z.string());

export const decideSchema = z.strictObject({
  visit: visitSchema,
  /** Whether the reasons come with the decision. */
  trace: z.boolean().default(false),
  /** Whether a pop-up counts as soon as it is decided, or only once it has opened: then `/v1/opened` is told. */
  countPopups: z.enum(["decided", "opened"]).default("decided"),
  /** Whether a receipt comes with each thing that is shown, for pages that tell by themselves what happened. */
  receipts: z.boolean().default(false),
  /** A pass of the workbench, as it came with the page's address (`look`): then that lens's decision is answered. */
  look: z.string().max(60).optional(),
});
export const decidedSchema = z.strictObject({
  release: z.number().int(),
  decision: decisionSchema,
  receipts: receiptsSchema.optional(),
  /** Whether it is a lens's: such a page is for nobody else, and loads /v1/look.js. */
  look: z.literal(true).optional(),
});

/** What a page tells by its script. Address, user agent and languages come from the request itself. */
export const pageSchema = z.strictObject({
  key: z.string().max(200),
  url: z.url({ protocol: /^https?$/ }).max(4000),
  referrer: z.string().max(4000).optional(),
  page: visitSchema.shape.page,
  cart: visitSchema.shape.cart,
  data: visitSchema.shape.data,
  width: z.number().min(0).max(100_000).optional(),
  zone: z.string().max(80).optional(),
  consent: z.boolean().default(false),
  /** What was answered before as `remember`: signed, so that nobody gives themselves a marker. */
  remember: z.string().max(8192).nullish(),
});

const fieldKinds = z.array(z.strictObject({ id: z.string(), name: z.string(), kind: z.string() }));
/** A decision as a page draws it. */
const shownSchema = z.strictObject({
  slots: decisionSchema.shape.slots,
  popup: decisionSchema.shape.popup,
  redirect: decisionSchema.shape.redirect,
  /** The fields of the kinds of blocks that were answered, so that a page without templates of its own can draw them. */
  kinds: z.record(z.string(), fieldKinds),
  /** Slots that are no marks in the page, by id: the element, and what becomes of it. `ifThere`: a page without it is as it should be. */
  places: z.record(z.string(), slotPlaceSchema.extend({ ifThere: z.literal(true).optional() })),
});
export type Shown = z.input<typeof shownSchema>;

export const pageAnswerSchema = shownSchema.extend({
  release: z.number().int(),
  /** To be sent again with the next page; null: forget it. Missing: there is nothing to keep. */
  remember: z.string().nullable().optional(),
  /** To be sent to /v1/opened when the pop-up opens, so that it counts. Missing: nothing is counted of this visitor. */
  openNote: z.string().optional(),
  /** Where the visitor came from, in a word, for events. */
  source: z.string(),
  /** Goals that this page view reaches, or that can be reached on the page; `value` in minor units of the site's currency. */
  goals: z.array(pageGoalSchema),
  receipts: receiptsSchema,
  /** On which side of the holdout the visitor is. Missing: there is none, or the visitor is not remembered. */
  holdout: z.enum(["in", "out"]).optional(),
});

/**
 * That a pop-up has opened. A page tells it with the note that was answered, and what is remembered now; a server, by its secret
 * key, with the memory of the last decision and when it was decided.
 */
export const openedSchema = z.union([
  z.strictObject({ key: z.string().max(200), note: z.string().max(200), remember: z.string().max(8192) }),
  z.strictObject({ popup: z.string().max(64), decided: visitSchema.shape.at, memory: z.unknown() }),
]);
/** What is remembered now; empty: it has been counted already, or is none of ours. */
export const openedAnswerSchema = z.strictObject({ remember: z.string().optional(), memory: z.unknown().optional() });

/** What a page asks that is looked at through a lens: by a pass of the workbench, or by the name of a shared lens. */
export const lookSchema = z.strictObject({
  key: z.string().max(200),
  pass: z.string().max(60).optional(),
  shared: z.string().max(60).optional(),
  /** Path and query of the page that asks. */
  path: z.string().startsWith("/").max(4000),
});
export const lookAnswerSchema = shownSchema.extend({
  /** The pop-up that opens at once, whatever it waits for. */
  opens: z.string().nullable(),
  /** Shown just as the visitor gets it: empty places take no room. */
  plain: z.boolean(),
  /** Where the values of the site's pages stand, so that the page can tell them to the workbench. */
  sources: z.array(z.looseObject({ signal: z.string(), from: collectFromSchema, kind: z.string() })),
});

/** Where a page no longer fits its slots, as it tells once a session. */
export const driftSchema = z.strictObject({
  key: z.string().max(200),
  path: z.string().startsWith("/").max(1000),
  drifts: z
    .array(z.strictObject({ slot: z.string().max(200), variant: z.string().max(200), why: z.string().max(300) }))
    .min(1)
    .max(50),
});

export const driftTakenSchema = z.strictObject({ taken: z.number().int() });

const group = (most: number) => z.string().max(most).transform(storable).optional();

/** Events of a page (with its public key) or of a server, which may also tell by whom it was done. */
export const eventsSchema = z.strictObject({
  key: z.string().max(200).optional(),
  /** What the sender's clock says: should it be wrong, the events' times are put right by it. */
  sent: z.iso.datetime({ offset: true }).optional(),
  events: z
    .array(
      z.strictObject({
        ...eventSchema.shape,
        country: group(2),
        device: group(20),
        language: z
          .string()
          .regex(/^[a-z]{2,3}$/)
          .optional(),
        system: group(20),
      }),
    )
    .min(1)
    .max(200),
});
export const takenSchema = z.strictObject({
  taken: z.number().int(),
  /** Left out, since their clock was too far off. */
  late: z.number().int(),
});

export const problemSchema = z.looseObject({
  type: z.string(),
  title: z.string(),
  status: z.number().int(),
  detail: z.string().optional(),
  /** Where the body is wrong: a code that stays, and words. */
  problems: z.array(z.strictObject({ path: z.string(), code: z.enum(problemCodes), problem: z.string() })).optional(),
});
