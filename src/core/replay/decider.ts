/** Decides page views of a log by the rules, and by others beside them, and names what each counts. */
import { createEngine, type Engine } from "../decision/engine";
import type { Decision } from "../decision/decision";
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import type { PageFacts } from "../lens/pages";
import { signalsOf } from "../rules/check";
import { RuleCompiler, type Judge } from "../rules/compile";
import { RuleContext } from "../rules/condition";
import { UNKNOWN, YES } from "../rules/truth";
import { readDevice, type Device } from "../visit/device";
import type { PlaceLookup } from "../visit/places";
import { traitsOf } from "../visit/signals";
import { movesBetween } from "./moves";
import { mostExamples, type CountKey, type Example, type Tally } from "./tally";

export interface ReplayOptions {
  lookup?: PlaceLookup;
  /** Another ruleset, to tell what it would change. */
  against?: Ruleset;
  /** Judges as though everybody had agreed to be remembered; without it history is unknown. */
  consent?: boolean;
  /** What the site tells of its pages, by path. */
  pages?: PageFacts;
  /** Besides counts of variants: for which of them something was unknown, by hour, by country, and examples. */
  detail?: boolean;
}

/** What a visitor is remembered by, under either of the rulesets. */
export interface Remembered {
  memory: unknown;
  otherMemory: unknown;
}

const changedKey: CountKey = { of: "changed" };

export class Decider {
  readonly #engine: Engine;
  readonly #other: Engine | undefined;
  readonly #moves: ReturnType<typeof movesBetween> | undefined;
  /** Variants whose rules may come out unknown, by slot. */
  readonly #doubtful: readonly { slot: string; pages: Judge; variants: { id: string; judge: Judge }[] }[];
  readonly #devices = new Map<string, Device | undefined>();
  readonly #index = new Map<string, number>();
  readonly #examples = new Map<string, number>();
  /** The number of the count of page views that come out otherwise. */
  readonly changed: number;

  /** @param tally takes the counts, which are known by their numbers in it, and the examples */
  constructor(
    ruleset: Ruleset,
    readonly options: ReplayOptions,
    readonly tally: Tally,
  ) {
    const device = (userAgent: string | undefined) => this.device(userAgent);
    const engine = (of: Ruleset) => createEngine(of, { device, ...(options.lookup ? { lookup: options.lookup } : {}) });
    this.#engine = engine(ruleset);
    this.#other = options.against && engine(options.against);
    this.#moves = options.against && movesBetween(ruleset, options.against);
    this.changed = this.#key(changedKey);
    this.#doubtful = options.detail ? doubtful(ruleset) : [];
  }

  /** The device of a user agent, each read once. */
  device(userAgent: string | undefined): Device | undefined {
    if (userAgent === undefined) return undefined;
    if (!this.#devices.has(userAgent)) this.#devices.set(userAgent, readDevice(userAgent));
    return this.#devices.get(userAgent);
  }

  /** What a page view counts, by the numbers of counts; the visitor remembers it. */
  decide(visit: Visit, visitor: Remembered): { keys: number[]; changed: boolean } {
    const seen = withMemory(visit, visitor.memory);
    const decision = this.#engine.decide(seen);
    const keys: number[] = [];
    const count = (key: CountKey) => keys.push(this.#key(key));
    shown(decision, "shown", count);
    if (decision.redirect) count({ of: "redirect", id: decision.redirect.id });
    if (this.#doubtful.length > 0 && !decision.redirect) {
      const reading = this.#engine.read(seen);
      for (const { slot, pages, variants } of this.#doubtful)
        if (pages(reading) === YES)
          for (const { id, judge } of variants)
            if (judge(reading) === UNKNOWN) count({ of: "unknown", slot, variant: id });
    }
    let changed = false;
    const other = this.#other?.decide(withMemory(visit, visitor.otherMemory));
    if (other) {
      shown(other, "other", count);
      if (other.redirect) count({ of: "otherRedirect", id: other.redirect.id });
      for (const [slot, before, after] of this.#moves?.(decision, other) ?? []) {
        changed = true;
        count({ of: "move", slot, before, after });
        if (this.options.detail) this.#example({ slot, before, after, visit: seen });
      }
      if (changed) count(changedKey);
      visitor.otherMemory = other.memory ?? undefined;
    }
    visitor.memory = decision.memory ?? undefined;
    return { keys, changed };
  }

  #key(key: CountKey): number {
    const name = Object.values(key).join("\n");
    let at = this.#index.get(name);
    if (at === undefined) this.#index.set(name, (at = this.tally.counts.push({ key, views: 0, visits: 0 }) - 1));
    return at;
  }

  #example(example: Example): void {
    const move = `${example.slot}\n${example.before}\n${example.after}`;
    const count = this.#examples.get(move) ?? 0;
    if (count >= mostExamples) return;
    this.#examples.set(move, count + 1);
    this.tally.examples.push(example);
  }
}

/** Variants whose rules ask for something that may be unknown, by slot. */
function doubtful(ruleset: Ruleset): { slot: string; pages: Judge; variants: { id: string; judge: Judge }[] }[] {
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  return ruleset.slots
    .map((slot) => ({
      slot: slot.id,
      pages: compiler.compile(slot.pages),
      variants: slot.variants
        .filter((item) => item.on && [...signalsOf(item.rule, ruleset)].some((signal) => traitsOf(signal)?.unknown))
        .map((item) => ({ id: item.id, judge: compiler.compile(item.rule) })),
    }))
    .filter((slot) => slot.variants.length > 0);
}

function shown(decision: Decision, of: "shown" | "other", count: (key: CountKey) => void): void {
  for (const [slot, places] of Object.entries(decision.slots))
    for (const item of places) count({ of, slot, variant: item.variant ?? "fallback" });
}

const withMemory = (visit: Visit, memory: unknown): Visit =>
  memory === undefined ? visit : ({ ...visit, memory } as Visit);
