/** Unpacks a log and shares its lines out, on a thread of its own: others decide meanwhile what it found before. */
import { LogUnpacker, type LogPiece } from "@/core/replay/unpack";

export type ToLog =
  | { do: "start"; of: number }
  /** A piece of a file; the last one ends it. */
  | { do: "piece"; bytes: Uint8Array<ArrayBuffer>; first: boolean; last: boolean }
  /** The next part of what the piece unpacks to. */
  | { do: "more" };
/** A part of a piece; without one, there is no more of it. */
export interface FromLog {
  part?: LogPiece;
}

let log: LogUnpacker | undefined;
let parts: Iterator<LogPiece> | undefined;

addEventListener("message", ({ data }: MessageEvent<ToLog>) => {
  if (data.do === "start") log = new LogUnpacker(data.of);
  else if (log) {
    if (data.do === "piece") parts = log.parts(data.bytes, data.first, data.last);
    const next = parts?.next();
    if (!next || next.done) return postMessage({});
    const transfer = next.value.shares.flatMap((share) => [share.bytes.buffer, share.numbers.buffer]);
    postMessage({ part: next.value }, { transfer });
  }
});
