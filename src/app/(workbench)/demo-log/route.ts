import { createGzip } from "node:zlib";
import { Readable } from "node:stream";
import { currentPerson } from "@/server/session";
import { accessLog } from "../../../../demo/traffic";
import { now } from "@/clock";

/** How many lines the made-up log has. */
const lines = 200_000;

/** Brackenfold's made-up access log of the last week: made, and packed, while it is sent. */
export async function GET(): Promise<Response> {
  if (!(await currentPerson())) return Response.json({ problem: "You are not signed in." }, { status: 401 });
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
    headers: { "content-type": "application/gzip" },
  });
}
