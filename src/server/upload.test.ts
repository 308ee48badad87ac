import { existsSync } from "node:fs";
import { readFile } from "node:fs/promises";
import { describe, expect, it } from "vitest";
import { toDisk, TooLarge } from "./upload";

/** A request whose body comes in parts. */
function sending(parts: readonly Uint8Array[], headers: Record<string, string> = {}) {
  let taken = 0;
  const body = new ReadableStream<Uint8Array>({
    pull(controller) {
      const part = parts[taken++];
      if (part) controller.enqueue(part);
      else controller.close();
    },
  });
  const request = new Request("http://here/", { method: "POST", body, headers, duplex: "half" } as RequestInit);
  return { request, taken: () => taken };
}
const part = (byte: number) => new Uint8Array(1000).fill(byte);

describe("uploads", () => {
  it("lie in a file while they are worked on, and are gone afterwards", async () => {
    let at = "";
    const sum = await toDisk(sending([part(1), part(2), part(3)]).request, 3000, async (path) => {
      at = path;
      return (await readFile(path)).reduce((total, byte) => total + byte, 0);
    });
    expect(sum).toBe(6000);
    expect(existsSync(at)).toBe(false);
    await expect(
      toDisk(sending([part(1)]).request, 3000, async (path) => {
        at = path;
        throw new Error("no");
      }),
    ).rejects.toThrow("no");
    expect(existsSync(at)).toBe(false);
  });
  it("are given up as soon as they are too large, and before anything is read where they say so", async () => {
    const many = sending(Array.from({ length: 1000 }, () => part(1)));
    await expect(toDisk(many.request, 2500, () => Promise.resolve(0))).rejects.toThrow(TooLarge);
    expect(many.taken()).toBeLessThan(50);
    const told = sending([part(1)], { "content-length": "1000000" });
    await expect(toDisk(told.request, 2500, () => Promise.resolve(0))).rejects.toThrow(TooLarge);
  });
  it("may be nothing at all", async () => {
    const empty = new Request("http://here/", { method: "POST" });
    expect(await toDisk(empty, 10, async (path) => (await readFile(path)).length)).toBe(0);
  });
});
