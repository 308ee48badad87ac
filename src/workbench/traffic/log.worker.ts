/** Unpacks a log and shares its lines out, on a thread of its own: others decide meanwhile what it found before. */
import { LogUnpacker, type LogPiece } from "@/core/replay/unpack";

export type ToLog =
  | { do: "start"; of: number }
  /** A piece of a file; the last one ends it. */
  | { do: "piece"; bytes: Uint8Array<ArrayBuffer>; first: boolean; last: boolean };
export type FromLog = LogPiece;

let log: LogUnpacker | undefined;

addEventListener("message", ({ data }: MessageEvent<ToLog>) => {
  if (data.do === "start") log = new LogUnpacker(data.of);
  else if (log) {
    const said = log.take(data.bytes, data.first, data.last);
    postMessage(said, { transfer: said.shares.flatMap((part) => [part.bytes.buffer, part.numbers.buffer]) });
  }
});
