import * as z from "zod";

const filled = z.strictObject({ type: z.string(), fields: z.record(z.string(), z.unknown()) });
const minor = z.number().int();

/** The schema of a decision (docs/engine.md, section 13). `content` is left out where it was not asked for. */
export const decisionSchema = z.strictObject({
  redirect: z
    .strictObject({
      id: z.string(),
      status: z.union([z.literal(301), z.literal(302), z.literal(307), z.literal(308)]),
      location: z.string(),
    })
    .nullable(),
  slots: z.record(
    z.string(),
    z.array(
      z.strictObject({
        variant: z.string().nullable(),
        arm: z.string().nullable(),
        content: filled.nullable().optional(),
      }),
    ),
  ),
  popup: z
    .strictObject({
      id: z.string(),
      arm: z.string(),
      opensAfter: z.record(z.string(), z.union([z.number(), z.boolean()])),
      size: z.strictObject({ width: z.number(), height: z.number() }),
      content: filled.nullable().optional(),
    })
    .nullable(),
  cart: z
    .strictObject({
      subtotal: minor,
      adjustments: z.array(z.strictObject({ offer: z.string(), label: z.string(), amount: minor })),
      freeDelivery: z.boolean(),
      total: minor,
      toGo: z.record(z.string(), minor),
    })
    .nullable(),
  markers: z.array(z.string()),
  memory: z.unknown(),
  trace: z.record(z.string(), z.unknown()).optional(),
});
