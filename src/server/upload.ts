import { createWriteStream } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type { ReadableStream } from "node:stream/web";

/** More came than may. */
export class TooLarge extends Error {}

/** Lets bytes through up to so many. @throws TooLarge beyond them */
async function* atMost(body: AsyncIterable<Uint8Array>, largest: number): AsyncGenerator<Uint8Array> {
  let size = 0;
  for await (const part of body) {
    size += part.length;
    if (size > largest) throw new TooLarge();
    yield part;
  }
}

/**
 * Writes what a request sends to a file while it comes, so that a large upload, however slow, takes no memory; the file is gone
 * afterwards. @param work is given its path
 * @throws TooLarge, as soon as more bytes have come than may
 */
export async function toDisk<T>(request: Request, largest: number, work: (path: string) => Promise<T>): Promise<T> {
  if (Number(request.headers.get("content-length") ?? 0) > largest) throw new TooLarge();
  const folder = await mkdtemp(join(tmpdir(), "mirada-upload-"));
  const path = join(folder, "body");
  try {
    const body = request.body ? Readable.fromWeb(request.body as ReadableStream) : Readable.from([]);
    await pipeline(atMost(body as AsyncIterable<Uint8Array>, largest), createWriteStream(path));
    return await work(path);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
