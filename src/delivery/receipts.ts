/**
 * Receipts: what is told of a visitor counts only where it was shown. Each thing that is shown goes out with a short signed note of
 * site, slot, variant, arm and time; what happens with it comes back with that note (docs/connect.md, “What is told”).
 */
import { createHash, createHmac, randomBytes, timingSafeEqual } from "node:crypto";
import type { Decision } from "@/core/decision/decision";
import { holdoutSlot } from "@/core/decision/holdout";
import type { Counting } from "./counting";

/** What was shown: of a pop-up the slot is `popup:ID`, "" is the fallback. */
export interface ShownThing {
  slot: string;
  variant: string;
  arm: string;
}

/**
 * For whom a receipt was made: a visitor who is remembered (of whom alone firsts are known), one who is not, or whoever gets a page
 * from a cache: then it is used by many, and tells exposures only.
 */
export type ReceiptKind = "v" | "n" | "s";

/** How long a receipt is good, in milliseconds: as long as pages remember what was seen. One that is shared, as long as caches may. */
const lasting: Record<ReceiptKind, number> = { v: 30 * 86_400_000, n: 86_400_000, s: 86_400_000 };
/** A sender's day may have begun before the receipt's second. */
const early = 60_000;
/** So often what is told of one kind counts by one receipt. */
export const mostByReceipt = 20;

/** By this a page finds the receipt of what it shows. */
export const receiptName = ({ slot, variant, arm }: ShownThing): string => `${slot}/${variant}/${arm}`;

const signature = (site: string, thing: ShownThing, head: string, secret: Uint8Array): string =>
  createHmac("sha256", secret)
    .update(`shown ${site} ${receiptName(thing)} ${head}`)
    .digest()
    .subarray(0, 12)
    .toString("base64url");

/** All that a decision shows and that may be counted. */
export function shownBy(
  { slots, popup }: Pick<Decision, "slots" | "popup">,
  holdout: Counting["holdout"],
): ShownThing[] {
  const out = Object.entries(slots).flatMap(([slot, list]) =>
    list.map(({ variant, arm }) => ({ slot, variant: variant ?? "", arm: arm ?? "" })),
  );
  if (popup) out.push({ slot: `popup:${popup.id}`, variant: popup.id, arm: popup.arm });
  if (holdout) out.push({ slot: holdoutSlot, variant: "", arm: holdout });
  return out;
}

/** A receipt for each thing that is shown, by its name. @param at in epoch milliseconds */
export function writeReceipts(
  site: string,
  things: readonly ShownThing[],
  { kind, at, secret }: { kind: ReceiptKind; at: number; secret: Uint8Array },
): Record<string, string> {
  const head = `${Math.floor(at / 1000).toString(36)}.${kind}${randomBytes(9).toString("base64url")}`;
  return Object.fromEntries(
    things.map((thing) => [receiptName(thing), `${head}.${signature(site, thing, head, secret)}`]),
  );
}

export interface Receipt {
  kind: ReceiptKind;
  /** When it was made, in epoch milliseconds. */
  made: number;
}

/** Reads a receipt; undefined: it is none of ours, not for this site and thing, or no longer good at `at`. */
export function readReceipt(
  text: string | undefined,
  site: string,
  thing: ShownThing,
  { at, secret }: { at: number; secret: Uint8Array },
): Receipt | undefined {
  const [, time = "", rest = "", signed = ""] =
    /^([0-9a-z]{1,9})\.([vns][\w-]{12})\.([\w-]{16})$/.exec(text ?? "") ?? [];
  const kind = rest[0] as ReceiptKind | undefined;
  if (!kind) return undefined;
  const wanted = Buffer.from(signature(site, thing, `${time}.${rest}`, secret));
  if (!timingSafeEqual(wanted, Buffer.from(signed))) return undefined;
  const made = parseInt(time, 36) * 1000;
  return at - made <= lasting[kind] && made - at <= early ? { kind, made } : undefined;
}

/**
 * The id under which something told by a receipt counts once, whoever sends it how often (a UUID of version 8, RFC 9562).
 * @param what kind and, of a goal, its name; @param number which of those of one kind it is, from 0 on
 */
export function idByReceipt(receipt: string, what: string, number: number): string {
  const hex = createHash("sha256").update(`${receipt} ${what} ${number}`).digest("hex");
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-a${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
