import { createHmac, randomBytes, timingSafeEqual } from "node:crypto";
import { decodeMemory, encodeMemory, type MemoryJson } from "@/core/memory/memory";

/** The one first-party cookie in which a visitor is remembered, and the one that says whether that is allowed. */
export const memoryCookie = "mirada";
export const consentCookie = "mirada-consent";
/** How long both are kept, in seconds: half a year. */
export const cookieAge = 180 * 86_400;

/** What a visitor's browser brought: who it is and what is remembered. */
export interface Remembered {
  visitorId: string;
  memory: unknown;
}

/** Sixteen bytes of an HMAC, as text. */
const signature = (text: string, secret: Uint8Array): string =>
  createHmac("sha256", secret).update(text).digest().subarray(0, 16).toString("base64url");

/** A name for a new visitor: 96 random bits that say nothing of the person. */
export const newVisitorId = (): string => `v-${randomBytes(12).toString("base64url")}`;

/** The cookie's value: visitor, memory and a signature, so that nobody gives themselves a marker. */
export function writeMemoryCookie(visitorId: string, memory: unknown, secret: Uint8Array): string {
  const text = `${visitorId}.${encodeMemory(memory as MemoryJson)}`;
  return `${text}.${signature(text, secret)}`;
}

/** Reads a cookie's value; undefined if it is damaged, oversized or not signed by us: the visitor is then a new one. */
export function readMemoryCookie(cookie: string | undefined, secret: Uint8Array): Remembered | undefined {
  if (!cookie || cookie.length > 4096) return undefined;
  const [visitorId = "", encoded = "", signed = "", more] = cookie.split(".");
  if (more !== undefined || !/^v-[A-Za-z0-9_-]{16}$/.test(visitorId)) return undefined;
  if (!isSigned(`${visitorId}.${encoded}`, signed, secret)) return undefined;
  return { visitorId, memory: decodeMemory(encoded) };
}

function isSigned(text: string, signed: string, secret: Uint8Array): boolean {
  // Compared as written: another spelling of the same bits is another text.
  const given = Buffer.from(signed);
  const wanted = Buffer.from(signature(text, secret));
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

/** For how long a page may stand open before its pop-up opens and still counts, in milliseconds. */
const noteAge = 86_400_000;

/** What a page hands back when its pop-up opens: which was decided when, for whom. `decided` in epoch milliseconds. */
export function writeOpenNote(popup: string, visitorId: string, decided: number, secret: Uint8Array): string {
  const text = `${decided.toString(36)}.${popup}`;
  return `${text}.${signature(`opened ${visitorId}.${text}`, secret)}`;
}

/** Reads such a note; undefined if it is not ours, not this visitor's, or older than a day at `at`. */
export function readOpenNote(
  note: string,
  visitorId: string,
  at: number,
  secret: Uint8Array,
): { popup: string; decided: number } | undefined {
  const [since = "", popup = "", signed = ""] = note.split(".");
  const decided = parseInt(since, 36);
  if (!isSigned(`opened ${visitorId}.${since}.${popup}`, signed, secret) || at - decided > noteAge) return undefined;
  return { popup, decided };
}
