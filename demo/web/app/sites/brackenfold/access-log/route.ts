import { createGzip } from "node:zlib";
import { Readable } from "node:stream";
import { now } from "@/clock";
import { accessLog } from "../../../../../traffic";
import { workbench } from "../../../../places";

/** How many lines the made-up log has. */
const lines = 200_000;

/** Brackenfold's made-up access log of the last week: made, and packed, while it is sent. For the workbench to read. */
export function GET(): Response {
  const pieces = function* () {
    let piece = "";
    for (const line of accessLog(lines, now())) {
      piece += `${line}\n`;
      if (piece.length < 1 << 16) continue;
      yield piece;
      piece = "";
    }
    yield piece;
  };
  const packed = Readable.from(pieces(), { objectMode: false }).pipe(createGzip({ level: 1 }));
  return new Response(Readable.toWeb(packed) as ReadableStream, {
    headers: { "content-type": "application/gzip", "access-control-allow-origin": workbench() },
  });
}
