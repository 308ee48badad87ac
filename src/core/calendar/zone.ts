import { Temporal } from "temporal-polyfill";

/** A stretch of time in which a zone keeps one offset: instants in [from, until), `offset` = local − UTC, all ms. */
interface Stretch {
  from: number;
  until: number;
  offset: number;
}

/**
 * Wall clock of one IANA time zone, by way of Temporal, with the stretches between clock changes remembered:
 * asking again about the same season costs a look at an array.
 */
export class Zone {
  readonly #stretches: Stretch[] = [];
  #last: Stretch | undefined;
  constructor(readonly id: string) {}

  #stretchAt(at: number): Stretch {
    if (this.#last && at >= this.#last.from && at < this.#last.until) return this.#last;
    let found = this.#stretches.find((s) => at >= s.from && at < s.until);
    if (!found) {
      const instant = Temporal.Instant.fromEpochMilliseconds(Math.floor(at));
      const here = instant.toZonedDateTimeISO(this.id);
      const next = here.getTimeZoneTransition("next");
      // `previous` is strictly before: ask from the millisecond after.
      const previous = instant.add({ milliseconds: 1 }).toZonedDateTimeISO(this.id).getTimeZoneTransition("previous");
      found = {
        from: previous ? previous.epochMilliseconds : -Infinity,
        until: next ? next.epochMilliseconds : Infinity,
        offset: here.offsetNanoseconds / 1e6,
      };
      this.#stretches.push(found);
    }
    this.#last = found;
    return found;
  }

  /** Local wall clock, in ms, of an instant. */
  toLocal(at: number): number {
    return at + this.#stretchAt(at).offset;
  }

  /**
   * The instant of a local wall clock time, by Temporal's `compatible` disambiguation: a time that a clock change skips
   * moves forward by the length of the gap, one that comes twice means the first.
   */
  toInstant(local: number): number {
    const guess = this.#stretchAt(local);
    let before = guess;
    // The stretch that holds the day before and the one that holds the day after frame every possible reading.
    if (local - guess.offset - 86_400_000 < guess.from) before = this.#stretchAt(local - guess.offset - 86_400_000);
    let first = local - before.offset;
    for (let stretch = before; ; stretch = this.#stretchAt(stretch.until)) {
      const at = local - stretch.offset;
      if (at < stretch.until) {
        if (at >= stretch.from) return at;
        return first; // in a gap: read with the offset from before it
      }
      first = at;
    }
  }

  /** Instants of clock changes in [from, until). */
  changes(from: number, until: number): number[] {
    const out: number[] = [];
    for (let stretch = this.#stretchAt(from); stretch.until < until; stretch = this.#stretchAt(stretch.until))
      out.push(stretch.until);
    return out;
  }
}

/** Whether a text names an IANA time zone that this machine knows. Offsets such as `+01:00` are no names. */
export function isZone(id: string): boolean {
  const answered = known.get(id);
  if (answered !== undefined) return answered;
  let there = /^[A-Za-z]/.test(id);
  try {
    if (there) new Intl.DateTimeFormat("en", { timeZone: id });
  } catch {
    there = false;
  }
  // Asking costs much, and what visitors make up is not kept without end.
  if (known.size < 2000) known.set(id, there);
  return there;
}
const known = new Map<string, boolean>();

/** Zones by name, so that their stretches are shared. The only state is what Temporal would answer anyway. */
const zones = new Map<string, Zone>();

/** The zone of an IANA name. @throws RangeError if there is none. */
export function zoneOf(id: string): Zone {
  let zone = zones.get(id);
  if (!zone) {
    if (!isZone(id)) throw new RangeError(`no time zone ${id}`);
    zone = new Zone(id);
    if (zones.size < 1000) zones.set(id, zone);
  }
  return zone;
}
