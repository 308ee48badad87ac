import { edges } from "../analysis/timeline";
import { createEngine, type Engine } from "../decision/engine";
import type { Decision } from "../formats/decision";
import { isCondition, walkRule, type Rule } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { allRules } from "../ruleset/uses";
import { parseAddress } from "../visit/address";
import { readDevice, type Device } from "../visit/device";
import type { PlaceLookup } from "../visit/places";
import { onPage, type PageFacts } from "../visit/pages";
import { LogReader, type LogLine } from "./log-line";

export interface Counts {
  views: number;
  visits: number;
}
/** What a replay found (engine, section 14). */
export interface ReplayResult {
  lines: number;
  broken: number;
  /** Page views of crawlers: counted, not decided. */
  bots: number;
  views: number;
  visitors: number;
  visits: number;
  /** By slot and variant ("fallback" is the fallback), those that were shown at all. */
  slots: Record<string, Record<string, Counts>>;
  redirects: Record<string, number>;
  /** Views and visits on which the other ruleset shows something else. */
  changes?: Counts;
}

export interface ReplayOptions {
  lookup?: PlaceLookup;
  /** Another ruleset, to tell what it would change. */
  against?: Ruleset;
  /** Judges as though everybody had agreed to be remembered; without it history is unknown. */
  consent?: boolean;
  /** What the site tells of its pages, by path. */
  pages?: PageFacts;
}

interface Visitor {
  /** The last page view so far, epoch ms. */
  last: number;
  /** What was counted in the visit at hand. */
  seen: Set<string>;
  memory: unknown;
  otherMemory: unknown;
}
/** What one page view counts. */
interface Outcome {
  /** What is counted for each variant shown. */
  shown: readonly { counts: Counts; key: string }[];
  redirect: string | undefined;
  changed: boolean;
}

/** A visit ends after so long without a page view (engine, section 2). */
const pause = 30 * 60_000;
/** At most so many outcomes are kept for equal requests. */
const mostKept = 100_000;

/** Whether a log line is a page view: a GET answered 200 or 304 whose path ends in no file extension but .html. */
export function isPageView(line: LogLine): boolean {
  if (line.method !== "GET" || (line.status !== 200 && line.status !== 304) || line.target === "") return false;
  const query = line.target.indexOf("?");
  const path = query < 0 ? line.target : line.target.slice(0, query);
  const name = path.slice(path.lastIndexOf("/") + 1);
  const dot = name.lastIndexOf(".");
  return dot < 0 || dot === name.length - 1 || name.slice(dot).toLowerCase() === ".html";
}

/** Takes an access log line by line and counts what rules would have shown. */
export class Replay {
  readonly #reader = new LogReader();
  readonly #engine: Engine;
  readonly #other: Engine | undefined;
  readonly #origin: string;
  readonly #visitors = new Map<string, Visitor>();
  readonly #devices = new Map<string, Device | undefined>();
  readonly #kept: Map<string, Outcome> | undefined;
  readonly #byAddress: boolean;
  readonly #rules: Rule[];
  /** Between these two instants no schedule of the rules changes. */
  #steady: [number, number] = [NaN, NaN];
  readonly #counts = new Map<string, Map<string, Counts>>();
  readonly #redirects = new Map<string, number>();
  #lines = 0;
  #broken = 0;
  #bots = 0;
  #views = 0;
  #visits = 0;
  readonly #changes: Counts = { views: 0, visits: 0 };

  constructor(
    readonly ruleset: Ruleset,
    readonly options: ReplayOptions = {},
  ) {
    const device = (userAgent: string | undefined) => this.#device(userAgent);
    const engine = (of: Ruleset) => createEngine(of, { device, ...(options.lookup ? { lookup: options.lookup } : {}) });
    this.#engine = engine(ruleset);
    this.#other = options.against && engine(options.against);
    this.#origin = new URL(ruleset.site.origin).origin;
    const all = [ruleset, ...(options.against ? [options.against] : [])];
    this.#rules = all.flatMap((of) => allRules(of).map((item) => item.rule));
    const leans = (test: (signal: string, value: unknown) => boolean): boolean => {
      let found = false;
      for (const rule of this.#rules)
        walkRule(rule, (inner) => {
          if (inner !== null && isCondition(inner) && test(inner.signal, inner.value)) found = true;
        });
      return found;
    };
    const zoned = leans((signal, value) => signal === "time" && (value as { zone?: string } | undefined)?.zone === "visitor"); // prettier-ignore
    const tested = all.some((of) => [...of.slots.flatMap((slot) => slot.variants), ...of.popups].some((item) => item.arms.length > 1)); // prettier-ignore
    // Without consent equal requests between two changes of a schedule come out alike, but for arms, which go by visitor.
    this.#kept = options.consent || zoned || (options.against && tested) ? undefined : new Map();
    this.#byAddress = options.lookup !== undefined || leans((signal) => signal === "ip") || all.some((of) => of.redirects.some((item) => item.on && item.exemptAddresses.length > 0)); // prettier-ignore
  }

  #device(userAgent: string | undefined): Device | undefined {
    if (userAgent === undefined) return undefined;
    if (!this.#devices.has(userAgent)) this.#devices.set(userAgent, readDevice(userAgent));
    return this.#devices.get(userAgent);
  }

  /** Takes one line. A broken one is counted and told; the rest goes on. @returns whether it could be read */
  line(text: string): boolean {
    this.#lines += 1;
    const line = this.#reader.read(text);
    if (!line) {
      this.#broken += 1;
      return false;
    }
    if (isPageView(line)) this.#view(line);
    return true;
  }

  #view(line: LogLine): void {
    const url = this.#url(line.target);
    if (url === undefined) return;
    if (this.#device(line.userAgent || undefined)?.kind === "bot") {
      this.#bots += 1;
      return;
    }
    this.#views += 1;
    const id = `${line.address} ${line.userAgent}`;
    let visitor = this.#visitors.get(id);
    if (!visitor) this.#visitors.set(id, (visitor = { last: NaN, seen: new Set(), memory: undefined, otherMemory: undefined })); // prettier-ignore
    if (!(line.at - visitor.last < pause)) {
      this.#visits += 1;
      visitor.seen.clear();
    }
    visitor.last = Math.max(line.at, Number.isNaN(visitor.last) ? line.at : visitor.last);
    this.#count(this.#outcome(line, url, id, visitor), visitor);
  }

  #url(target: string): string | undefined {
    // Behind an origin any path makes an address.
    if (target.startsWith("/")) return this.#origin + target;
    return URL.canParse(target) && /^https?:/i.test(target) ? target : undefined;
  }

  #outcome(line: LogLine, url: string, id: string, visitor: Visitor): Outcome {
    let key = "";
    if (this.#kept) {
      if (!(line.at >= this.#steady[0] && line.at < this.#steady[1])) this.#settle(line.at);
      key = `${url}\n${line.referrer}\n${line.userAgent}${this.#byAddress ? `\n${line.address}` : ""}`;
      const known = this.#kept.get(key);
      if (known) return known;
    }
    const visit = this.#visit(line, url, id);
    const decision = this.#engine.decide(withMemory(visit, visitor.memory));
    visitor.memory = decision.memory ?? undefined;
    const other = this.#other?.decide(withMemory(visit, visitor.otherMemory));
    if (other) visitor.otherMemory = other.memory ?? undefined;
    const outcome: Outcome = {
      shown: Object.entries(decision.slots).flatMap(([slot, shown]) =>
        shown.map((item) => this.#shown(slot, item.variant ?? "fallback")),
      ),
      redirect: decision.redirect?.id,
      changed: other !== undefined && differs(decision, other),
    };
    if (this.#kept) {
      if (this.#kept.size >= mostKept) this.#kept.clear();
      this.#kept.set(key, outcome);
    }
    return outcome;
  }

  /** Finds the instants around one between which no schedule changes; what was kept for others is dropped. */
  #settle(at: number): void {
    const day = 86_400_000;
    const around = [this.ruleset, ...(this.options.against ? [this.options.against] : [])].flatMap((of) => edges(this.#rules, of, at - day, at + day)); // prettier-ignore
    const before = around.filter((edge) => edge <= at);
    const after = around.filter((edge) => edge > at);
    this.#steady = [Math.max(at - day, ...before), Math.min(at + day, ...after)];
    this.#kept?.clear();
  }

  #visit(line: LogLine, url: string, visitorId: string): Visit {
    const visit: Visit = {
      at: new Date(line.at).toISOString(),
      url,
      ...(line.referrer ? { referrer: line.referrer } : {}),
      ...(parseAddress(line.address) ? { ip: line.address } : {}),
      ...(line.userAgent ? { userAgent: line.userAgent } : {}),
      ...(this.options.consent ? { consent: true } : {}),
      visitorId,
    };
    return this.options.pages ? onPage(visit, this.options.pages) : visit;
  }

  #shown(slot: string, variant: string): { counts: Counts; key: string } {
    let variants = this.#counts.get(slot);
    if (!variants) this.#counts.set(slot, (variants = new Map()));
    let counts = variants.get(variant);
    if (!counts) variants.set(variant, (counts = { views: 0, visits: 0 }));
    return { counts, key: `${slot}\n${variant}` };
  }

  #count(outcome: Outcome, visitor: Visitor): void {
    for (const { counts, key } of outcome.shown) {
      counts.views += 1;
      if (visitor.seen.has(key)) continue;
      visitor.seen.add(key);
      counts.visits += 1;
    }
    if (outcome.redirect !== undefined)
      this.#redirects.set(outcome.redirect, (this.#redirects.get(outcome.redirect) ?? 0) + 1);
    if (!outcome.changed) return;
    this.#changes.views += 1;
    if (!visitor.seen.has("*")) this.#changes.visits += 1;
    visitor.seen.add("*");
  }

  result(): ReplayResult {
    const slots: ReplayResult["slots"] = {};
    for (const { id } of this.ruleset.slots) {
      const variants = this.#counts.get(id);
      if (variants) slots[id] = Object.fromEntries([...variants].map(([variant, counts]) => [variant, { ...counts }]));
    }
    return {
      lines: this.#lines,
      broken: this.#broken,
      bots: this.#bots,
      views: this.#views,
      visitors: this.#visitors.size,
      visits: this.#visits,
      slots,
      redirects: Object.fromEntries(this.#redirects),
      ...(this.options.against ? { changes: { ...this.#changes } } : {}),
    };
  }
}

const withMemory = (visit: Visit, memory: unknown): Visit =>
  memory === undefined ? visit : ({ ...visit, memory } as Visit);

/** Whether two decisions show something else: another variant, text or pop-up, or another way to be sent. */
function differs(a: Decision, b: Decision): boolean {
  if (a.redirect?.location !== b.redirect?.location) return true;
  const popup = ({ popup: opened }: Decision) => opened && [opened.id, opened.arm, opened.content];
  return JSON.stringify([a.slots, popup(a)]) !== JSON.stringify([b.slots, popup(b)]);
} // prettier-ignore

/** Cuts a stream of text into lines, with or without a carriage return. */
export class LineCutter {
  #rest = "";
  constructor(readonly each: (line: string) => void) {}
  take(text: string): void {
    let from = 0;
    const all = this.#rest === "" ? text : this.#rest + text;
    for (let end = all.indexOf("\n"); end >= 0; end = all.indexOf("\n", from)) {
      this.each(all.charCodeAt(end - 1) === 13 && end > from ? all.slice(from, end - 1) : all.slice(from, end));
      from = end + 1;
    }
    this.#rest = from === 0 ? all : all.slice(from);
  }
  /** The last line, if no line break ends it. */
  end(): void {
    if (this.#rest !== "") this.each(this.#rest);
    this.#rest = "";
  }
}
