/** A visit made ready to be judged: what it tells, and what memory, markers and offers add to it. */
import { readyOffers, type Reckoning } from "../cart/offers";
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { readyMarkers } from "../memory/markers";
import { readMemory, type Memory } from "../memory/memory";
import { keepView, steadyAt } from "../memory/view";
import type { RuleCompiler } from "../rules/compile";
import type { PlaceLookup } from "../visit/places";
import { Reading, readingRules, type Beyond, type DeviceReader } from "../visit/reading";
import type { Tracer } from "./trace";

/** A visit, read, with what is remembered of its visitor once this page view is kept. */
export class Prepared {
  /** What offers made of the cart, once that was asked for. */
  reckoned: Reckoning | null = null;
  constructor(
    readonly reading: Reading,
    /** Undefined without consent. */
    readonly memory: Memory | undefined,
    /** Memory as it came in. */
    readonly before: Memory | undefined,
    /** The markers that are held. */
    readonly markers: string[],
  ) {}
  /** The instant that memory goes by: that of the visit, where nothing is remembered. */
  get at(): number {
    return this.memory ? steadyAt(this.reading.at, this.memory) : this.reading.at;
  }
  /** Null: the cart is not told, or in another currency. */
  get reckoning(): Reckoning | null {
    return this.reading.cartFigures === null ? null : this.reckoned;
  }
}

interface Options {
  lookup?: PlaceLookup;
  device?: DeviceReader;
}

/** Makes ready to prepare visits by a ruleset; with a tracer, why markers are held is written down. */
export function preparing(ruleset: Ruleset, compiler: RuleCompiler, { lookup, device }: Options) {
  const rules = readingRules(ruleset);
  const ready = readyMarkers(ruleset, (rule) => compiler.compile(rule));
  const reckon = readyOffers(ruleset, (rule) => compiler.compile(rule));

  return (visit: Visit, tracer?: Tracer): Prepared => {
    const memory = visit.consent === true ? readMemory(visit.memory) : undefined;
    const held: string[] = [];
    const remembered = (memory: Memory): Beyond => ({
      history: (r) => keepView(memory, r),
      markers(r) {
        for (const { marker, step } of ready) {
          const told = step(memory, r, steadyAt(r.at, memory));
          tracer?.marker(marker, told, r);
          if (told.held) held.push(marker.id);
        }
        return new Set(held);
      },
    });
    const beyond: Beyond =
      memory || visit.cart
        ? {
            ...(memory ? remembered(memory) : {}),
            ...(visit.cart ? { figures: (r) => (prepared.reckoned = reckon(r)) } : {}),
          }
        : nothing;
    const reading = new Reading(visit, rules, beyond, lookup, device);
    const prepared = new Prepared(reading, memory, memory && readMemory(visit.memory), held);
    if (memory) {
      // A page view is kept whether or not a rule asks.
      void reading.history;
      void reading.markers;
    } else if (tracer) for (const { marker } of ready) tracer.marker(marker, undefined, reading);
    return prepared;
  };
}
const nothing: Beyond = {};
