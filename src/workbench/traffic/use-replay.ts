"use client";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Place } from "@/core/formats/visit";
import { addShares, type Tally } from "@/core/replay/tally";
import { whyNot, type Actions } from "../parts/actions";
import type { SitePage } from "../parts/desk/use-look";
import type { FromReplay, ToReplay } from "./replay.worker";

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

class Stopped extends Error {}

/** The workers of one replay: each decides its share of the visitors, and all read every line. */
class Crew {
  readonly workers: Worker[];
  readonly #answer: ((message: FromReplay) => void)[] = [];
  readonly #fail: ((error: Error) => void)[] = [];
  constructor(start: Omit<Extract<ToReplay, { do: "start" }>, "do" | "share">, placesOf: Actions["placesOf"]) {
    const of = Math.min(8, Math.max(1, navigator.hardwareConcurrency || 1));
    this.workers = Array.from({ length: of }, (_, number) => {
      const worker = new Worker(new URL("./replay.worker.ts", import.meta.url), { type: "module" });
      worker.addEventListener("message", ({ data }: MessageEvent<FromReplay>) => {
        if (data.says !== "addresses") return this.#answer[number]?.(data);
        void this.#places(data.addresses, placesOf).then(
          (places) => this.#say(number, { do: "places", places }),
          (error: unknown) => this.#fail[number]?.(new Error(whyNot(error))),
        );
      });
      worker.addEventListener("error", (event) =>
        this.#fail[number]?.(new Error(event.message || "A worker could not be started.")),
      );
      return worker;
    });
    this.workers.forEach((_, number) => this.#say(number, { do: "start", ...start, share: { number, of } }));
  }
  #say(number: number, message: ToReplay): void {
    this.workers[number]?.postMessage(message);
  }
  async #places(addresses: string[], placesOf: Actions["placesOf"]): Promise<(Place | null)[]> {
    const out: (Place | null)[] = [];
    for (let from = 0; from < addresses.length; from += 5000)
      out.push(...(await placesOf(addresses.slice(from, from + 5000))));
    return out;
  }
  /** Asks every worker, and waits for what each answers. */
  ask(message: (number: number) => ToReplay): Promise<FromReplay[]> {
    return Promise.all(
      this.workers.map(
        (_, number) =>
          new Promise<FromReplay>((resolve, reject) => {
            this.#answer[number] = resolve;
            this.#fail[number] = reject;
            this.#say(number, message(number));
          }),
      ),
    );
  }
  end(): void {
    this.workers.forEach((worker) => worker.terminate());
    this.#fail.forEach((fail) => fail(new Stopped()));
  }
}

/** A source as pieces, and how long it is. */
async function* piecesOf(source: LogSource, signal: AbortSignal): AsyncGenerator<{ bytes: Uint8Array; of: number }> {
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
  const { Gunzip } = await import("fflate");
  const bytes = new Uint8Array(await file.slice(0, 1 << 16).arrayBuffer());
  let text = "";
  const decoder = new TextDecoder();
  try {
    if (bytes[0] === 0x1f && bytes[1] === 0x8b)
      new Gunzip((part) => (text += decoder.decode(part, { stream: true }))).push(bytes);
    else text = decoder.decode(bytes);
  } catch {
    // What can be unpacked of it will do.
  }
  for (const line of text.split("\n")) {
    const found = read(line);
    if (found) return found.at;
  }
  return Infinity;
}

interface Wanted {
  ruleset: Ruleset;
  against: Ruleset;
  consent: boolean;
  pages: readonly SitePage[];
}

/** Replays logs here in the browser, on as many threads as there are cores. `before` is what an earlier one came to. */
export function useReplay(actions: Actions, before?: ReplayState) {
  const [state, setState] = useState<ReplayState>(before ?? { phase: "idle", progress: undefined, tally: undefined, problems: [], seconds: 0 });
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
      let lines = 0;
      setState({ phase: "running", progress: undefined, tally: undefined, problems, seconds: 0 });
      try {
        for (const source of sources) {
          let read = 0;
          let first = true;
          let open = true;
          const send = async (bytes: Uint8Array, of: number, last: boolean) => {
            const answers = await crew.ask(() => ({ do: "piece", bytes: bytes.slice().buffer as ArrayBuffer, first, last }));
            first = false;
            read += bytes.length;
            const broken = answers.find((answer) => answer.says === "broken");
            if (broken?.says === "broken") {
              problems.push(`${source.name}: ${broken.problem}`);
              open = false;
              return;
            }
            const told = answers.flatMap((answer) => (answer.says === "taken" ? [answer.progress] : []));
            lines = Math.max(...told.map((item) => item.lines));
            const sum = (name: "views" | "broken") => told.reduce((total, item) => total + item[name], 0);
            if (lines >= mostUnread && sum("broken") === lines) throw new Error(`${source.name} is in another format: expected lines of the Combined Log Format, such as 192.0.2.1 - - [24/Nov/2026:10:15:00 +0000] "GET / HTTP/1.1" 200 512 "-" "Mozilla/5.0".`);
            const seconds = (performance.now() - began) / 1000;
            setState((old) => (running.current === own ? { ...old, seconds, progress: { file: source.name, read: readBefore + read, of: of === 0 ? 0 : whole, lines, views: sum("views"), broken: sum("broken"), speed: lines / seconds } } : old));
          };
          // The last piece is known by there being no other.
          let held: { bytes: Uint8Array; of: number } | undefined;
          for await (const next of piecesOf(source, abort.signal)) {
            if (running.current !== own) throw new Stopped();
            if (held && open) await send(held.bytes, held.of, false);
            held = next;
            if (!open) break;
          }
          if (open) await send(held?.bytes ?? new Uint8Array(), held?.of ?? 0, true);
          readBefore += read;
        }
        const shares = (await crew.ask(() => ({ do: "tally" }))).flatMap((answer) => (answer.says === "tally" ? [answer.tally] : []));
        const tally = addShares(shares);
        const none = tally.lines > 0 && tally.broken === tally.lines;
        if (tally.lines === 0) problems.push("There is no line in it.");
        else if (none) problems.push("None of its lines is in the Combined Log Format.");
        setState({ phase: none || tally.lines === 0 ? "failed" : "done", progress: undefined, tally: none || tally.lines === 0 ? undefined : tally, problems, seconds: (performance.now() - began) / 1000 });
      } catch (error) {
        if (running.current !== own) setState((old) => ({ ...old, phase: old.phase === "running" ? "stopped" : old.phase }));
        else setState((old) => ({ ...old, phase: "failed", problems: [...problems, (error as Error).message] }));
      } finally {
        crew.end();
        if (running.current === own) running.current = undefined;
      }
    },
    [actions, stop],
  );
  return { state, start, stop };
} // prettier-ignore
