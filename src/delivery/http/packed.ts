/** Files for visitors' pages are packed once for all who ask for them. */
import { createHash } from "node:crypto";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { LRUCache } from "lru-cache";

export interface Packed {
  /** Of these bytes: the same text packed otherwise has another (RFC 9110, section 8.8.3). */
  etag: string;
  encoding?: "br" | "gzip";
  body: string | Buffer;
}

/** A file is packed anew for each site and release that puts something before it. */
const kept = new LRUCache<string, Packed>({ max: 1000 });

/** Whether an answer may be packed so, by the request's Accept-Encoding (RFC 9110, section 12.5.3). */
export const accepts = (header: string, coding: string): boolean =>
  header
    .toLowerCase()
    .split(",")
    .some((part) => {
      const [name, ...more] = part.trim().split(/[ \t]*;[ \t]*/);
      return name === coding && !more.some((one) => /^q=0(\.0{0,3})?$/.test(one));
    });

/** A text as it is answered: by Brotli or gzip, where that is accepted. */
export function packed(text: string, acceptEncoding = ""): Packed {
  const encoding = (["br", "gzip"] as const).find((coding) => accepts(acceptEncoding, coding));
  const mark = createHash("sha256").update(text).digest("base64url").slice(0, 20);
  const etag = `"${mark}${encoding ? `-${encoding}` : ""}"`;
  if (!encoding) return { etag, body: text };
  let found = kept.get(etag);
  if (!found) {
    const quality = { [constants.BROTLI_PARAM_QUALITY]: 9 };
    const body = encoding === "br" ? brotliCompressSync(text, { params: quality }) : gzipSync(text, { level: 9 });
    kept.set(etag, (found = { etag, encoding, body }));
  }
  return found;
}
