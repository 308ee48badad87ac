import { now } from "@/clock";

/** An id for something new that is kept beside the draft: a lens, a check. No two are alike, whoever makes one at the same moment. */
export const freshName = (stem: string): string => `${stem}-${now().toString(36)}${uuid().slice(0, 6)}`;

/** A random UUID; made here because pages without TLS lack `crypto.randomUUID`. */
export function uuid(): string {
  // `randomUUID` is there only in secure contexts; the bits are the same (RFC 9562, version 4).
  const hex = [...crypto.getRandomValues(new Uint8Array(16))]
    .map((byte) => byte.toString(16).padStart(2, "0"))
    .join("");
  const parts = [hex.slice(0, 8), hex.slice(8, 12), `4${hex.slice(13, 16)}`, `a${hex.slice(17, 20)}`, hex.slice(20)];
  return crypto.randomUUID?.() ?? parts.join("-");
}
