import { randomUUID } from "node:crypto";
import { setTimeout as wait } from "node:timers/promises";
import { now as timeNow } from "@/clock";
import type { Engine } from "@/core/decision/engine";
import { partsOfSource, type Apart, type KeptEvent, type SiteEvent, type TellerGroups } from "@/core/formats/event";
import { toMinor } from "@/core/money/currency";
import { daysBack, keepEvents, type SiteKept } from "@/data/events";
import { asApart, isGoal } from "./countable";
import type { Live } from "./live";
import { idByReceipt, mostByReceipt, readReceipt } from "./receipts";
import { ownSpool, type Spool } from "./spool";

/** What the queue of this process has done so far. */
export interface EventCounts {
  taken: number;
  written: number;
  /** Sent twice: known already. */
  twice: number;
  /** Not taken, because too many were waiting. */
  refused: number;
  /** Could not be written, and never can: left out, so that the others get through. */
  dropped: number;
  waiting: number;
  failures: number;
}

const day = 86_400_000;

/** A sender's clock that is off by less, in milliseconds, is taken as it is. */
const smallError = 60_000;

/**
 * By how much a sender's clock is ahead of ours, in milliseconds, by the time that it says it is; 0 if it says nothing, or is
 * right within a minute: then an event that is sent twice has the same time twice.
 */
export function clockError(sent: string | undefined, now: number): number {
  const ahead = sent === undefined ? 0 : Date.parse(sent) - now;
  return Math.abs(ahead) < smallError ? 0 : ahead;
}

/** What an event is completed by. */
export interface Completing {
  site: string;
  /** In epoch milliseconds. */
  now: number;
  /** By how much the clock is ahead by which the event was timed, in milliseconds. */
  ahead?: number;
  /** Undefined: a server tells it by its secret key, and needs no receipt. */
  receipts?: { secret: Uint8Array; /** For so many days events are kept. */ days: number };
  /** What is live of the site. */
  engine: Engine;
  /** In minor units of the site's currency: with a higher value they count apart. Undefined: none is too large. */
  largest?: number | undefined;
}

/** By what events are completed that one request tells. @param sent what its clock said; @param byPage a page tells them, not a server */
export function completingOf(
  { engine, secret, eventDays }: Live,
  sent: string | undefined,
  byPage: boolean,
): Completing {
  const { id, currency, largestValue } = engine.ruleset.site;
  const at = timeNow();
  return {
    site: id,
    engine,
    now: at,
    ahead: clockError(sent, at),
    ...(byPage ? { receipts: { secret, days: eventDays } } : {}),
    largest: largestValue === undefined ? undefined : toMinor(largestValue, currency),
  };
}

/**
 * An event made complete; undefined: it is so old, or so far in the future, that it cannot be placed, or one too many by its
 * receipt. By its receipt it counts once, whoever sends it how often; without a good one, or with too large a value, it counts apart.
 */
export function completed(
  { receipt, n, source, ...event }: SiteEvent,
  known: TellerGroups,
  { site, engine, now, ahead = 0, receipts, largest = Infinity }: Completing,
): KeptEvent | undefined {
  const at = event.at === undefined ? now : Date.parse(event.at) - ahead;
  if (at < now - daysBack * day || at > now + day) return undefined;
  const kept: KeptEvent = {
    ...event,
    ...known,
    ...partsOfSource(source),
    id: event.id ?? randomUUID(),
    at: new Date(at).toISOString(),
    ...(event.value > largest ? { apart: "value" } : {}),
  };
  const apart = (why: Apart): KeptEvent | undefined => asApart({ ...kept, apart: why }, engine);
  if (known.device === "bot") return apart("bot");
  if (!receipts) return kept;
  const read = readReceipt(receipt, site, event, { at: now, secret: receipts.secret });
  const shared = read?.kind === "s";
  if (!receipt || !read || (shared && event.kind === "conversion")) return apart("receipt");
  if (n >= mostByReceipt) return undefined;
  if (event.kind === "conversion" && !isGoal(engine, event.name)) return apart("goal");
  // Many have the same one: each tells under an id of its own, and nothing of it is anybody's first.
  if (shared) return { ...kept, first: false };
  const what = event.kind === "conversion" ? `conversion ${event.name}` : event.kind;
  // What was seen was seen when the receipt was made, whatever the sender's clock says.
  const when = event.kind === "exposure" ? read.made : Math.max(at, read.made);
  const within = new Date(read.made).toISOString().slice(0, 10);
  const keeps = now - read.made < (receipts.days - 1) * day;
  return {
    ...kept,
    id: idByReceipt(receipt, what, n),
    at: new Date(when).toISOString(),
    first: event.first && read.kind === "v" && n === 0,
    // Where events are kept for less long than the receipt is good, its day may be gone.
    ...(keeps ? { day: within } : {}),
  };
}

/**
 * Events on their way to the database: taken at once, written in batches. While the database is away they wait, up to a bound;
 * since every event has an id, a batch whose fate is uncertain is simply sent again.
 */
export class EventQueue {
  #waiting: SiteKept[] = [];
  #timer: NodeJS.Timeout | undefined;
  #writing: Promise<void> | undefined;
  #pause = 0;
  readonly counts: Omit<EventCounts, "waiting"> = {
    taken: 0,
    written: 0,
    twice: 0,
    refused: 0,
    dropped: 0,
    failures: 0,
  };

  constructor(
    readonly most = 100_000,
    readonly batch = 2000,
    readonly every = 250,
    private readonly write = keepEvents,
    private readonly spool?: Spool,
  ) {
    // What was taken is kept, also beyond the bound.
    spool?.takeUp((events) => this.#keep(events));
  }

  get waiting(): number {
    return this.#waiting.length;
  }

  /** Takes events; false if there is no room for all of them, and then takes none. */
  take(site: string, events: readonly KeptEvent[]): boolean {
    if (this.#waiting.length + events.length > this.most) {
      this.counts.refused += events.length;
      return false;
    }
    this.#keep(events.map((event) => ({ site, ...event })));
    return true;
  }

  #keep(events: readonly SiteKept[]): void {
    this.spool?.add(events);
    for (const event of events) this.#waiting.push(event);
    this.counts.taken += events.length;
    this.#timer ??= setTimeout(() => void this.#flush(), this.every);
  }

  #flush(): Promise<void> {
    this.#timer = undefined;
    return (this.#writing ??= this.#writeOut().finally(() => {
      this.#writing = undefined;
      if (this.#waiting.length > 0) this.#timer ??= setTimeout(() => void this.#flush(), this.#pause || this.every);
    }));
  }

  async #writeOut(): Promise<void> {
    let size = this.batch;
    while (this.#waiting.length > 0) {
      const part = this.#waiting.slice(0, size);
      try {
        const fresh = await this.write(part);
        this.counts.written += fresh;
        this.counts.twice += part.length - fresh;
        this.#waiting.splice(0, part.length);
        this.spool?.written(this.#waiting);
        this.#pause = 0;
        size = this.batch;
      } catch (error) {
        this.counts.failures += 1;
        // One of these can never be written (SQLSTATE 22 and 23: data, constraints): it is found by halving, and left out.
        if (/^2[23]/.test(String((error as { code?: unknown }).code))) {
          if (part.length === 1) {
            this.#waiting.shift();
            this.spool?.written(this.#waiting);
            this.counts.dropped += 1;
          } else size = Math.ceil(part.length / 2);
          continue;
        }
        // Again a little later each time, up to five seconds: the database may be starting up.
        this.#pause = Math.min(5000, (this.#pause || this.every) * 2);
        return;
      }
    }
  }

  /** Writes what is waiting, as far as that can be done before the time is over. For a graceful stop. */
  async drain(milliseconds: number): Promise<void> {
    const until = performance.now() + milliseconds;
    while (this.#waiting.length > 0 && performance.now() < until) {
      clearTimeout(this.#timer);
      // A database that has gone silent is not waited for longer than there is time.
      await Promise.race([this.#flush(), wait(until - performance.now(), undefined, { ref: false })]);
      if (this.#waiting.length > 0) await wait(100);
    }
    clearTimeout(this.#timer);
    this.spool?.close();
    if (this.#waiting.length > 0)
      console.error(
        `${this.#waiting.length} events could not be written: the database does not answer${this.spool ? "; whoever is started next does it" : ""}`,
      );
  }
}

const shared = globalThis as { miradaEvents?: EventQueue };
/** The queue of this process. */
export const eventQueue = (): EventQueue =>
  (shared.miradaEvents ??= new EventQueue(undefined, undefined, undefined, undefined, ownSpool()));
