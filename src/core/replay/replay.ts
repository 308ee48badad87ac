import { isUrl } from "../text/is-url";
import { edges } from "../analysis/timeline";
import type { Rule } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { onPage } from "../lens/pages";
import { allRules } from "../ruleset/uses";
import { parseAddress } from "../visit/address";
import { alikeFor, type Alike } from "./alike";
import { Decider, type Remembered, type ReplayOptions } from "./decider";
import { fieldOf, LogReader, ownText } from "./log-line";
import { isPage } from "./page-view";
import { longestLine } from "./shares";
import { emptyTally, mostBroken, resultOf, type Changed, type ReplayResult, type Tally } from "./tally";

export type { ReplayOptions };

/** A user agent as it stood in the log. */
interface Agent {
  text: string;
  bot: boolean;
  /** What the rules may know of its device. */
  device: string;
  visitors: Map<string, Visitor>;
}
interface Visitor extends Remembered {
  /** The number of those whom the rules cannot tell apart from this one: the same device, places alike. */
  alike: number;
  country: Changed;
  /** The last page view so far, epoch ms. */
  last: number;
  /** What was counted in the visit at hand: indexes of counts. */
  seen: number[];
  /** What the last page view counted: the same again is nothing new to the visit. */
  outcome: Outcome | undefined;
}
/** What one page view counts: indexes of counts. */
interface Outcome {
  keys: readonly number[];
  changed: boolean;
  /** Page views since it was last written down. */
  waiting: number;
}
/** A request target: its address, and what was decided for it so far, by referrer and by who asked. */
interface Target {
  url: string | undefined;
  kept: Map<string, Map<number, Outcome>>;
  generation: number;
}

/** A visit ends after so long without a page view (docs/engine.md, section 2). */
const pause = 30 * 60_000;
/** At most so many targets, and outcomes for equal requests, are kept. */
const mostKept = 100_000;
const hourLength = 3_600_000;
const addressEnd = (text: string, from: number, to: number): number => {
  const space = text.indexOf(" ", from);
  return space < 0 || space > to ? to : space;
};

/** Takes an access log piece by piece and counts what rules would have shown. */
export class Replay {
  readonly #reader = new LogReader();
  readonly #origin: string;
  readonly #agents = new Map<string, Agent>();
  readonly #agentsByText = new Map<string, Agent>();
  #targets = new Map<string, Target>();
  readonly #places = new Map<string, Changed>();
  readonly #kinds = new Map<string, number>();
  readonly #ownReferrer: string;
  /** What the rules tell apart: requests that are alike to them are decided once. */
  readonly #alike: Alike;
  readonly #rules: Rule[];
  readonly #known = new Set<string>();
  readonly #tally = emptyTally();
  readonly #decider: Decider;
  #touched: Outcome[] = [];
  #hour = NaN;
  #hours = new Map<number, { views: number; counts: Map<number, number> }>();
  #hourViews = 0;
  #kept = 0;
  #generation = 0;
  /** Between these two instants no schedule of the rules changes. */
  #steady: [number, number] = [NaN, NaN];
  #rest = "";
  /** Whether the line that has begun was cut: what comes of it goes. */
  #isCut = false;
  /** The numbers of the lines at hand, if they were told, and how many there were before them. */
  #numbers: Uint32Array | undefined;
  #before = 0;

  constructor(
    readonly ruleset: Ruleset,
    readonly options: ReplayOptions = {},
  ) {
    this.#decider = new Decider(ruleset, options, this.#tally);
    this.#origin = new URL(ruleset.site.origin).origin;
    const all = [ruleset, ...(options.against ? [options.against] : [])];
    this.#rules = all.flatMap((of) => allRules(of).map((item) => item.rule));
    this.#alike = alikeFor(all, options.consent === true);
    this.#ownReferrer = `${this.#origin}/`;
  }

  /**
   * Takes a piece of the log, cut anywhere; or whole lines of it with their numbers, where lines are shared out. A broken line is
   * counted and told; the rest goes on.
   */
  take(piece: string, numbers?: Uint32Array): void {
    this.#numbers = numbers;
    this.#before = this.#tally.lines;
    let text = piece;
    if (this.#isCut) {
      const end = piece.indexOf("\n");
      text = end < 0 ? "" : piece.slice(end);
      this.#isCut = end < 0;
    }
    if (this.#rest !== "") text = this.#rest + text;
    const done = this.#lines(text, (from, to) => this.#line(text, from, to));
    this.#isCut ||= text.length - done > longestLine;
    this.#rest = this.#isCut || done > 0 ? ownText(text.slice(done, done + longestLine)) : text;
  }

  /** Ends a file: its last line need not end with a line break. */
  end(): void {
    const text = this.#rest;
    this.#rest = "";
    this.#isCut = false;
    if (text !== "") this.line(text);
  }

  /** Takes one line. @returns whether it could be read */
  line(text: string): boolean {
    this.#numbers = undefined;
    this.#reader.begin();
    return this.#line(text, 0, text.length);
  }

  /** The addresses that a piece brings and no earlier piece did: to look them up before the piece is taken. */
  addresses(piece: string): string[] {
    const text = this.#rest === "" ? piece : this.#rest + piece;
    const out: string[] = [];
    this.#lines(text, (from, to) => {
      const end = addressEnd(text, from, to);
      const address = text.slice(from, end);
      if (this.#known.has(address) || address.length > 45) return;
      const own = ownText(address);
      this.#known.add(own);
      out.push(own);
    });
    return out;
  }

  /** Calls for each whole line of a text. @returns where the rest begins */
  #lines(text: string, each: (from: number, to: number) => void): number {
    this.#reader.begin();
    let from = 0;
    for (let end = text.indexOf("\n"); end >= 0; end = text.indexOf("\n", from)) {
      each(from, end > from && text.charCodeAt(end - 1) === 13 ? end - 1 : end);
      from = end + 1;
    }
    return from;
  }

  #line(text: string, from: number, to: number): boolean {
    this.#tally.lines += 1;
    const reader = this.#reader;
    if (!reader.scan(text, from, to)) {
      this.#tally.broken += 1;
      const line = this.#numbers?.[this.#tally.lines - this.#before - 1] ?? this.#tally.lines;
      if (this.#tally.brokenLines.length < mostBroken)
        this.#tally.brokenLines.push({ line, text: ownText(text.slice(from, Math.min(to, from + 200))) });
      return false;
    }
    // GET, answered 200 or 304.
    if (reader.status !== 200 && reader.status !== 304) return true;
    if (reader.methodEnd - reader.methodFrom !== 3 || !text.startsWith("GET", reader.methodFrom)) return true;
    const raw = text.slice(reader.targetFrom, reader.targetEnd);
    const target = this.#target(raw);
    if (target.url === undefined) return true;
    this.#view(text, from, target);
    return true;
  }

  #target(raw: string): Target {
    let target = this.#targets.get(raw);
    if (target) return target;
    if (this.#targets.size >= mostKept) this.#targets.clear();
    const text = fieldOf(raw);
    target = { url: isPage(text, 0, text.length) ? this.#url(text) : undefined, kept: new Map(), generation: 0 };
    this.#targets.set(ownText(raw), target);
    return target;
  }

  #url(target: string): string | undefined {
    // Behind an origin any path makes an address.
    if (target.startsWith("/")) return ownText(this.#origin + target);
    return isUrl(target) && /^https?:/i.test(target) ? target : undefined;
  }

  #agent(raw: string): Agent {
    let agent = this.#agents.get(raw);
    if (!agent) {
      const text = ownText(fieldOf(raw));
      // The same agent can be written in several ways: none as "-" and as nothing, letters as themselves and escaped.
      const same = this.#agentsByText.get(text);
      if (same) {
        this.#agents.set(ownText(raw), same);
        return same;
      }
      const device = this.#decider.device(text || undefined);
      const known = device ? this.#alike.deviceParts.map((part) => String(device[part])).join(" ") : "-";
      agent = { text, bot: device?.kind === "bot", device: known, visitors: new Map() };
      this.#agents.set(ownText(raw), agent);
      this.#agentsByText.set(text, agent);
    }
    return agent;
  }

  #visitor(agent: Agent, raw: string): Visitor {
    let visitor = agent.visitors.get(raw);
    if (!visitor) {
      const text = ownText(raw);
      const address = this.options.lookup && parseAddress(text);
      const place = address && this.options.lookup?.(address);
      const code = place?.country ?? "";
      let country = this.#places.get(code);
      if (!country) this.#places.set(code, (country = { views: 0, visits: 0, changedViews: 0, changedVisits: 0 }));
      const drawn = this.#alike.armMark(visitorIdOf(text, agent.text));
      const key = `${agent.device}\n${drawn}\n${this.#alike.byAddress ? text : this.#alike.placeMark(place)}`;
      let alike = this.#kinds.get(key);
      if (alike === undefined) this.#kinds.set(key, (alike = this.#kinds.size));
      visitor = { alike, country, last: NaN, seen: [], outcome: undefined, memory: undefined, otherMemory: undefined };
      agent.visitors.set(text, visitor);
      this.#tally.visitors += 1;
    }
    return visitor;
  }

  /** Counts a page view whose line the reader has just scanned. */
  #view(text: string, from: number, target: Target): void {
    const reader = this.#reader;
    const tally = this.#tally;
    const { at } = reader;
    const agent = this.#agent(text.slice(reader.agentFrom, reader.agentEnd));
    if (agent.bot) {
      tally.bots += 1;
      return;
    }
    tally.views += 1;
    if (!(at >= tally.from)) tally.from = at;
    if (!(at <= tally.until)) tally.until = at;
    if (!(at >= this.#hour && at < this.#hour + hourLength)) this.#toHour(at);
    this.#hourViews += 1;
    const visitor = this.#visitor(agent, text.slice(from, reader.hostEnd));
    if (!(at - visitor.last < pause)) {
      tally.visits += 1;
      visitor.country.visits += 1;
      visitor.seen = [];
      visitor.outcome = undefined;
    }
    visitor.last = visitor.last > at ? visitor.last : at;
    const outcome = this.#outcome(text, from, target, agent, visitor);
    if (outcome.waiting === 0) this.#touched.push(outcome);
    outcome.waiting += 1;
    visitor.country.views += 1;
    if (outcome.changed) visitor.country.changedViews += 1;
    if (visitor.outcome === outcome) return;
    visitor.outcome = outcome;
    for (const key of outcome.keys) {
      if (visitor.seen.includes(key)) continue;
      visitor.seen.push(key);
      (tally.counts[key] as { visits: number }).visits += 1;
      if (key === this.#decider.changed) visitor.country.changedVisits += 1;
    }
  }

  /** Writes down what was counted in the hour so far, and goes on to the hour of an instant. */
  #toHour(at: number): void {
    if (this.#hourViews > 0) {
      let hour = this.#hours.get(this.#hour);
      if (!hour) this.#hours.set(this.#hour, (hour = { views: 0, counts: new Map() }));
      hour.views += this.#hourViews;
      for (const outcome of this.#touched) {
        for (const key of outcome.keys) {
          (this.#tally.counts[key] as { views: number }).views += outcome.waiting;
          hour.counts.set(key, (hour.counts.get(key) ?? 0) + outcome.waiting);
        }
        outcome.waiting = 0;
      }
    }
    this.#touched = [];
    this.#hourViews = 0;
    this.#hour = Math.floor(at / hourLength) * hourLength;
  }

  #outcome(text: string, from: number, target: Target, agent: Agent, visitor: Visitor): Outcome {
    const reader = this.#reader;
    const { at } = reader;
    // From within the site: all its pages are one to the rules.
    const inner = !this.#alike.byReferrer && text.startsWith(this.#ownReferrer, reader.referrerFrom);
    const told = text.slice(reader.referrerFrom, reader.referrerEnd);
    const raw = inner ? this.#ownReferrer : told;
    if (!this.#alike.keeps)
      return this.#decide(text.slice(from, reader.hostEnd), at, fieldOf(told), target, agent, visitor);
    if (!(at >= this.#steady[0] && at < this.#steady[1])) this.#settle(at);
    if (target.generation !== this.#generation) {
      target.kept.clear();
      target.generation = this.#generation;
    }
    let byReferrer = target.kept.get(raw);
    if (!byReferrer) target.kept.set(ownText(raw), (byReferrer = new Map()));
    let outcome = byReferrer.get(visitor.alike);
    if (!outcome) {
      outcome = this.#decide(text.slice(from, reader.hostEnd), at, fieldOf(told), target, agent, visitor);
      // So many different requests: what was kept is let go.
      if (++this.#kept >= mostKept) this.#forget();
      else byReferrer.set(visitor.alike, outcome);
    }
    return outcome;
  }

  #forget(): void {
    this.#generation += 1;
    this.#kept = 0;
  }

  #decide(address: string, at: number, referrer: string, target: Target, agent: Agent, visitor: Visitor): Outcome {
    const visit = this.#visit(ownText(address), at, ownText(referrer), target.url as string, agent.text);
    return { ...this.#decider.decide(visit, visitor), waiting: 0 };
  }

  /** Finds the instants around one between which no schedule changes; what was kept for others is dropped. */
  #settle(at: number): void {
    const day = 86_400_000;
    const around = [this.ruleset, ...(this.options.against ? [this.options.against] : [])].flatMap((of) =>
      edges(this.#rules, of, at - day, at + day),
    );
    const before = around.filter((edge) => edge <= at);
    const after = around.filter((edge) => edge > at);
    this.#steady = [Math.max(at - day, ...before), Math.min(at + day, ...after)];
    this.#forget();
  }

  #visit(address: string, at: number, referrer: string, url: string, userAgent: string): Visit {
    const visit: Visit = {
      at: new Date(at).toISOString(),
      url,
      ...(referrer ? { referrer } : {}),
      ...(parseAddress(address) ? { ip: address } : {}),
      ...(userAgent ? { userAgent } : {}),
      ...(this.options.consent ? { consent: true } : {}),
      visitorId: visitorIdOf(address, userAgent),
    };
    return this.options.pages ? onPage(visit, this.options.pages) : visit;
  }

  /** How far it has come: what can be told at any time. */
  get progress(): Pick<Tally, "lines" | "broken" | "bots" | "views" | "visitors" | "visits"> {
    const { lines, broken, bots, views, visitors, visits } = this.#tally;
    return { lines, broken, bots, views, visitors, visits };
  }

  /** What was counted so far. */
  tally(): Tally {
    this.#toHour(this.#hour);
    const hours = [...this.#hours].sort(([a], [b]) => a - b);
    return {
      ...this.#tally,
      counts: this.#tally.counts.map((count) => ({ ...count })),
      hours: hours.map(([at, { views, counts }]) => ({ at, views, counts: [...counts] })),
      countries: Object.fromEntries([...this.#places].map(([code, counts]) => [code, { ...counts }])),
    };
  }

  result(): ReplayResult {
    return resultOf(this.tally(), this.ruleset, this.options.against !== undefined);
  }
}

/** A visitor of a log is an address with a user agent. */
const visitorIdOf = (address: string, userAgent: string): string => `${address} ${userAgent}`;
