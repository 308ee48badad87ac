/** What stands behind a finding: whole visits that the engine decides, by which every claim is held. */
import { locale, t } from "../messages/t";
import { createEngine, type Engine } from "../decision/engine";
import type { Decision } from "../decision/decision";
import type { Rule } from "../formats/rule";
import type { Visit } from "../formats/visit";
import { RuleCompiler } from "../rules/compile";
import { RuleContext } from "../rules/condition";
import { YES } from "../rules/truth";
import { cachedDevices } from "../visit/device";
import type { Reading } from "../visit/reading";
import type { Domain } from "./facet";
import { sample, type Sampled } from "./sample";
import type { Clause } from "./solve";
import { fails } from "./conditions";

export class Evidence {
  readonly #engine: Engine;
  readonly #compiler: RuleCompiler;
  #sampled: Sampled[] | undefined;
  #readings: Reading[] | undefined;
  /** Clauses that keep a witness from being redirected: with them, what a slot shows is seen. */
  readonly unredirected: Clause[];

  constructor(readonly domain: Domain) {
    const { ruleset } = domain;
    this.#engine = createEngine(ruleset, { device: cachedDevices() });
    this.#compiler = new RuleCompiler(new RuleContext(ruleset));
    this.unredirected = ruleset.redirects.filter((redirect) => redirect.on).map((redirect) => fails(redirect.rule));
  }

  get sampled(): readonly Sampled[] {
    return (this.#sampled ??= sample(this.domain, undefined, this.#engine));
  }
  /** On how many visits a claim that something does not happen was tried. */
  get tries(): number {
    return this.sampled.length;
  }

  decide(visit: Visit): Decision {
    return this.#engine.decide(visit, { trace: true });
  }

  /** A sampled visit that got something; undefined: none did. */
  find(got: (decision: Decision) => boolean): Visit | undefined {
    return this.sampled.find(({ decision }) => got(decision))?.visit;
  }

  /** A sampled visit in which a variant is shown. */
  shows(slot: string, variant: string): Visit | undefined {
    return this.find(({ slots }) => slots[slot]?.some((item) => item.variant === variant) ?? false);
  }

  /** Whether a rule holds for a visit. */
  holds(rule: Rule, visit: Visit): boolean {
    return this.#compiler.compile(rule)(this.#engine.read(visit)) === YES;
  }

  /** Whether some sampled visit meets a rule (or, if it is not to hold, does not). */
  meets(rule: Rule, holds: boolean): boolean {
    const judge = this.#compiler.compile(rule);
    this.#readings ??= this.sampled.map(({ visit }) => this.#engine.read(visit));
    return this.#readings.some((reading) => (judge(reading) === YES) === holds);
  }
}

/** "in 1,500 tries": behind every absence that is not proven. */
export const tried = (tries: number): string => t("in {tries} tries", { tries: tries.toLocaleString(locale()) });
