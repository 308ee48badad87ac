import { brotliDecompressSync, gunzipSync } from "node:zlib";
import { describe, expect, it } from "vitest";
import { accepts, packed } from "./packed";

describe("files for pages", () => {
  it("are packed as is accepted (RFC 9110, section 12.5.3), and named by their bytes", () => {
    const text = "window.mirada = 1;\n".repeat(500);
    const [br, gzip, plain] = ["br, gzip", "gzip, deflate", "identity"].map((header) => packed(text, header));
    expect(brotliDecompressSync(br!.body as Buffer).toString()).toBe(text);
    expect(gunzipSync(gzip!.body as Buffer).toString()).toBe(text);
    expect(plain).toEqual({ etag: plain!.etag, body: text });
    expect((br!.body as Buffer).length).toBeLessThan(text.length / 20);
    expect(new Set([br, gzip, plain].map((one) => one!.etag)).size).toBe(3);
    // Once for all.
    expect(packed(text, "br")).toBe(br);
    expect(packed(`${text} `, "br").etag).not.toBe(br!.etag);
  });
  it.each([
    ["gzip, deflate, br, zstd", "br", true],
    ["GZIP;q=0.5", "gzip", true],
    ["gzip;q=0, br;q=0.000", "br", false],
    ["gzip ; q=0", "gzip", false],
    ["br;q=0.001", "br", true],
    ["broken, xbr", "br", false],
    ["", "gzip", false],
  ])("%s: %s", (header, coding, wanted) => expect(accepts(header, coding)).toBe(wanted));
});
