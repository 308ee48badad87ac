"use client";
import { t } from "@/core/messages/t";
import { useCallback, useEffect, useRef, useState } from "react";
import { addShares, type Tally } from "@/core/replay/tally";
import type { Actions } from "../parts/actions";
import { Crew, Stopped, type Wanted } from "./crew";

/** A log to read: a file, or one that comes from an address. */
export type LogSource = File | { name: string; address: string };

export interface Progress {
  file: string;
  /** Bytes read, and of how many; 0: that is not known. */
  read: number;
  of: number;
  lines: number;
  views: number;
  broken: number;
  /** Lines a second. */
  speed: number;
}
export interface ReplayState {
  phase: "idle" | "running" | "done" | "stopped" | "failed";
  progress: Progress | undefined;
  tally: Tally | undefined;
  /** What went wrong; with `failed` nothing came of it, else what was read up to there counts. */
  problems: string[];
  seconds: number;
}

/** How much of a log is handed over at once, in bytes: each piece costs a question for the places of its addresses. */
const piece = 4 << 20;
/** The same of a packed one, which unpacks to ten times as much. */
const packedPiece = 1 << 19;
/** If none of so many first lines can be read, it is no such log. */
const mostUnread = 400;

/** A source as pieces, and how long it is. */
async function* piecesOf(
  source: LogSource,
  signal: AbortSignal,
): AsyncGenerator<{ bytes: Uint8Array<ArrayBuffer>; of: number }> {
  if (source instanceof File) {
    const [first, second] = new Uint8Array(await source.slice(0, 2).arrayBuffer());
    const size = first === 0x1f && second === 0x8b ? packedPiece : piece;
    for (let from = 0; from < source.size; from += size)
      yield { bytes: new Uint8Array(await source.slice(from, from + size).arrayBuffer()), of: source.size };
    return;
  }
  const answer = await fetch(source.address, { signal });
  if (!answer.ok || !answer.body) throw new Error("The log could not be fetched.");
  const reader = answer.body.getReader();
  // What comes in crumbs is handed over in pieces; the made-up log is packed.
  let held: Uint8Array[] = [];
  let size = 0;
  const whole = () => {
    const out = new Uint8Array(size);
    let at = 0;
    for (const part of held) {
      out.set(part, at);
      at += part.length;
    }
    held = [];
    size = 0;
    return out;
  };
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    held.push(next.value);
    size += next.value.length;
    if (size >= packedPiece) yield { bytes: whole(), of: 0 };
  }
  yield { bytes: whole(), of: 0 };
}

/** When a file's first line that can be read was written: rotated logs are read in the order of time. */
export async function firstTime(file: File, read: (line: string) => { at: number } | undefined): Promise<number> {
  const { LogUnpacker } = await import("@/core/replay/unpack");
  const bytes = new Uint8Array(await file.slice(0, 1 << 16).arrayBuffer());
  const [part] = new LogUnpacker(1).parts(bytes, true, bytes.length === file.size);
  const text = new TextDecoder().decode(part?.shares[0]?.bytes);
  for (const line of text.split("\n")) {
    const found = read(line);
    if (found) return found.at;
  }
  return Infinity;
}

/** Replays logs here in the browser, on as many threads as there are cores (`Crew`). `before` is what an earlier one came to. */
export function useReplay(actions: Actions, before?: ReplayState) {
  const [state, setState] = useState<ReplayState>(
    before ?? { phase: "idle", progress: undefined, tally: undefined, problems: [], seconds: 0 },
  );
  const running = useRef<{ crew: Crew; abort: AbortController }>(undefined);
  const stop = useCallback(() => {
    running.current?.abort.abort();
    running.current?.crew.end();
    running.current = undefined;
  }, []);
  useEffect(() => stop, [stop]);

  const start = useCallback(
    async (sources: readonly LogSource[], wanted: Wanted) => {
      stop();
      const crew = new Crew(wanted, actions.placesOf);
      const abort = new AbortController();
      const own = { crew, abort };
      running.current = own;
      const began = performance.now();
      const problems: string[] = [];
      const whole = sources.reduce((sum, source) => sum + (source instanceof File ? source.size : 0), 0);
      let readBefore = 0;
      setState({ phase: "running", progress: undefined, tally: undefined, problems, seconds: 0 });
      try {
        for (const source of sources) {
          let read = 0;
          let first = true;
          let open = true;
          // While lines are decided, the next piece is unpacked.
          let deciding = Promise.resolve();
          const tell = (
            { lines, views, broken }: { lines: number; views: number; broken: number },
            readNow: number,
            wholeNow: number,
          ) => {
            if (lines >= mostUnread && broken === lines)
              throw new Error(
                t("{file} is in another format: expected lines of the Combined Log Format, such as {example}.", {
                  file: source.name,
                  example: '192.0.2.1 - - [24/Nov/2026:10:15:00 +0000] "GET / HTTP/1.1" 200 512 "-" "Mozilla/5.0"',
                }),
              );
            const seconds = (performance.now() - began) / 1000;
            setState((old) =>
              running.current === own
                ? {
                    ...old,
                    seconds,
                    progress: {
                      file: source.name,
                      read: readNow,
                      of: wholeNow,
                      lines,
                      views,
                      broken,
                      speed: lines / seconds,
                    },
                  }
                : old,
            );
          };
          const send = async (bytes: Uint8Array<ArrayBuffer>, of: number, last: boolean) => {
            read += bytes.length;
            const parts = crew.read(bytes, first, last);
            first = false;
            for await (const { shares, damage } of parts) {
              await deciding;
              const [readNow, wholeNow] = [readBefore + read, of === 0 ? 0 : whole];
              deciding = crew.decide(shares).then((sum) => tell(sum, readNow, wholeNow));
              // Should it fail, that is found where it is waited for.
              deciding.catch(() => undefined);
              if (damage === undefined) continue;
              problems.push(`${source.name}: ${damage}`);
              open = false;
            }
          };
          // The last piece is known by there being no other.
          let held: { bytes: Uint8Array<ArrayBuffer>; of: number } | undefined;
          for await (const next of piecesOf(source, abort.signal)) {
            if (running.current !== own) throw new Stopped();
            if (held && open) await send(held.bytes, held.of, false);
            held = next;
            if (!open) break;
          }
          if (open) await send(held?.bytes ?? new Uint8Array(), held?.of ?? 0, true);
          await deciding;
          readBefore += read;
        }
        const tally = addShares(await crew.tallies());
        const none = tally.lines > 0 && tally.broken === tally.lines;
        if (tally.lines === 0) problems.push(t("There is no line in it."));
        else if (none) problems.push(t("None of its lines is in the Combined Log Format."));
        setState({
          phase: none || tally.lines === 0 ? "failed" : "done",
          progress: undefined,
          tally: none || tally.lines === 0 ? undefined : tally,
          problems,
          seconds: (performance.now() - began) / 1000,
        });
      } catch (error) {
        if (running.current !== own)
          setState((old) => ({ ...old, phase: old.phase === "running" ? "stopped" : old.phase }));
        else setState((old) => ({ ...old, phase: "failed", problems: [...problems, (error as Error).message] }));
      } finally {
        crew.end();
        if (running.current === own) running.current = undefined;
      }
    },
    [actions, stop],
  );
  return { state, start, stop };
}
