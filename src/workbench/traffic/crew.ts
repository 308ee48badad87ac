import type { Ruleset } from "@/core/formats/ruleset";
import type { Place } from "@/core/formats/visit";
import type { Lines } from "@/core/replay/shares";
import type { LogPiece } from "@/core/replay/unpack";
import type { Tally } from "@/core/replay/tally";
import { whyNot, type Actions } from "../parts/actions";
import type { SitePage } from "../parts/desk/use-look";
import type { FromLog, ToLog } from "./log.worker";
import type { FromReplay, ToReplay } from "./replay.worker";

/** Under what a log is replayed. */
export interface Wanted {
  ruleset: Ruleset;
  against: Ruleset;
  consent: boolean;
  pages: readonly SitePage[];
}

export class Stopped extends Error {}

/** A worker that is asked one thing after the other. */
class Asked<To, From> {
  #answer: ((message: From) => void) | undefined;
  #fail: ((error: Error) => void) | undefined;
  constructor(readonly worker: Worker) {
    worker.addEventListener("message", ({ data }: MessageEvent<From>) => this.heard(data));
    worker.addEventListener("error", (event) =>
      this.fail(new Error(event.message || "A worker could not be started.")),
    );
  }
  heard(message: From): void {
    this.#answer?.(message);
  }
  fail(error: Error): void {
    this.#fail?.(error);
  }
  say(message: To, transfer: Transferable[] = []): void {
    this.worker.postMessage(message, transfer);
  }
  ask(message: To, transfer?: Transferable[]): Promise<From> {
    return new Promise((resolve, reject) => {
      this.#answer = resolve;
      this.#fail = reject;
      this.say(message, transfer);
    });
  }
}

/** One that decides, and asks in between where addresses are. */
class Decider extends Asked<ToReplay, FromReplay> {
  constructor(readonly placesOf: Actions["placesOf"]) {
    super(new Worker(new URL("./replay.worker.ts", import.meta.url), { type: "module" }));
  }
  override heard(message: FromReplay): void {
    if (message.says !== "addresses") return super.heard(message);
    void this.#places(message.addresses).then(
      (places) => this.say({ do: "places", places }),
      (error: unknown) => this.fail(new Error(whyNot(error))),
    );
  }
  async #places(addresses: string[]): Promise<(Place | null)[]> {
    const out: (Place | null)[] = [];
    for (let from = 0; from < addresses.length; from += 5000)
      out.push(...(await this.placesOf(addresses.slice(from, from + 5000))));
    return out;
  }
}

/** The workers of one replay: one unpacks the log and shares its lines out, the others decide, one for each core that is left. */
export class Crew {
  readonly #log: Asked<ToLog, FromLog>;
  readonly #deciders: Decider[];
  constructor(wanted: Wanted, placesOf: Actions["placesOf"]) {
    const of = Math.min(8, Math.max(1, (navigator.hardwareConcurrency || 1) - 1));
    this.#log = new Asked(new Worker(new URL("./log.worker.ts", import.meta.url), { type: "module" }));
    this.#deciders = Array.from({ length: of }, () => new Decider(placesOf));
    this.#log.say({ do: "start", of });
    for (const decider of this.#deciders) decider.say({ do: "start", ...wanted });
  }
  /** Unpacks a piece of a file, part by part, and shares out its lines. */
  async *read(bytes: Uint8Array<ArrayBuffer>, first: boolean, last: boolean): AsyncGenerator<LogPiece> {
    let said = await this.#log.ask({ do: "piece", bytes, first, last }, [bytes.buffer]);
    for (; said.part; said = await this.#log.ask({ do: "more" })) yield said.part;
  }
  /** Has lines decided. @returns how far it has come */
  async decide(shares: Lines[]): Promise<{ lines: number; views: number; broken: number }> {
    const sum = { lines: 0, views: 0, broken: 0 };
    const answers = this.#deciders.map((decider, number) => {
      const lines = shares[number] ?? { bytes: new Uint8Array(), numbers: new Uint32Array() };
      return decider.ask({ do: "lines", lines }, [lines.bytes.buffer, lines.numbers.buffer]);
    });
    for (const answer of await Promise.all(answers))
      if (answer.says === "taken")
        for (const name of ["lines", "views", "broken"] as const) sum[name] += answer.progress[name];
    return sum;
  }
  async tallies(): Promise<Tally[]> {
    const answers = await Promise.all(this.#deciders.map((decider) => decider.ask({ do: "tally" })));
    return answers.flatMap((answer) => (answer.says === "tally" ? [answer.tally] : []));
  }
  end(): void {
    for (const one of [this.#log, ...this.#deciders]) {
      one.worker.terminate();
      one.fail(new Stopped());
    }
  }
}
