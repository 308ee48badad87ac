/** What each page depends on, and so how it may be cached: from the rules alone. */
import { t } from "../messages/t";
import { createEngine } from "../decision/engine";
import { groupOf, isCondition, type Condition, type Rule } from "../formats/rule";
import type { Arm, Content, Ruleset } from "../formats/ruleset";
import { RuleContext } from "../rules/condition";
import { RuleCompiler } from "../rules/compile";
import { NO, YES, type Truth } from "../rules/truth";
import type { Reading } from "../visit/reading";
import { traitsOf, leanings, type Leaning } from "../visit/signals";
import type { KnownPage } from "./made-visit";
import { edges } from "./timeline";

/** The request headers by which a cache tells what leans on them apart (RFC 9110, Vary). */
const varyBy: Readonly<Record<Leaning, readonly string[]>> = {
  time: [],
  link: [],
  place: [],
  arrival: [],
  measured: [],
  language: ["Accept-Language"],
  device: ["User-Agent", "Sec-CH-UA-Mobile", "Sec-CH-UA-Platform"],
  visitor: ["Cookie"],
};
/** What no shared cache can tell by headers: a page that leans on it is made for one visitor. */
const unshared: readonly Leaning[] = ["place", "arrival", "measured"];

/** A part of a page, what it depends on, and by which signals. */
export interface PartLeaning {
  kind: "slot" | "popup" | "redirect";
  id: string;
  name: string;
  signals: readonly string[];
  leans: readonly Leaning[];
}

export interface PageAdvice {
  path: string;
  parts: readonly PartLeaning[];
  /** What the page as a whole depends on, in a fixed order. */
  leans: readonly Leaning[];
  /** Request headers for Vary. */
  vary: readonly string[];
  /** Whether a shared cache may keep the page. */
  shared: boolean;
  /** What a cache at the edge must put into its key beside host, path, query and the headers of Vary; it could then share it. */
  edgeKey: readonly string[];
  /** Slots that keep the page from being shared: were the page script to fill them, the rest could be. */
  byScript: readonly string[];
}

/** The longest that a shared page is kept, in seconds: a release reaches every cache within this. */
export const longestShared = 300;

/** Reads the advice for every page of a site. `own`: what the site's own part of a page leans on beside the slots. */
export function cacheAdvice(ruleset: Ruleset, pages: readonly KnownPage[], own: readonly Leaning[] = []): PageAdvice[] {
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  const engine = createEngine({ ...ruleset, slots: [], popups: [], redirects: [] });
  const everywhere = new Everywhere();
  return pages.map(({ path, facts }) => {
    const url = new URL(path, ruleset.site.origin).href;
    const reading = engine.read({ at: "2026-01-01T00:00:00Z", url, page: facts });
    const look = new PageLook(ruleset, compiler, reading, everywhere);
    const parts = [...look.slots(), ...look.popups(), ...look.redirects()];
    const leans = ordered([...own, ...parts.flatMap((part) => part.leans)]);
    const hard = (part: PartLeaning) => part.leans.some((leaning) => unshared.includes(leaning));
    return {
      path,
      parts,
      leans,
      vary: leans.flatMap((leaning) => varyBy[leaning]),
      shared: !leans.some((leaning) => unshared.includes(leaning)),
      edgeKey:
        leans.includes("place") && !leans.some((leaning) => leaning === "arrival" || leaning === "measured")
          ? [t("the visitor’s country, region and city")]
          : [],
      byScript: parts.filter((part) => part.kind === "slot" && hard(part)).map((part) => part.id),
    };
  });
}

/** The advice for a page whose slots that keep it from being shared are filled by the page script; undefined: there are none. */
export function withScript(
  ruleset: Ruleset,
  page: KnownPage,
  advice: PageAdvice,
  own: readonly Leaning[] = [],
): PageAdvice | undefined {
  if (advice.byScript.length === 0) return undefined;
  const slots = ruleset.slots.filter((slot) => !advice.byScript.includes(slot.id));
  return cacheAdvice({ ...ruleset, slots }, [page], own)[0];
}

/** The rules that decide what is on a page, for asking when it may change by itself. */
const rulesOn = (ruleset: Ruleset, advice: PageAdvice): Rule[] => {
  const has = (kind: PartLeaning["kind"], id: string) =>
    advice.parts.some((part) => part.kind === kind && part.id === id);
  return [
    ...ruleset.slots
      .filter((slot) => has("slot", slot.id))
      .flatMap((slot) => [slot.pages, ...slot.variants.map((variant) => variant.rule)]),
    ...ruleset.popups.filter((popup) => has("popup", popup.id)).flatMap((popup) => [popup.pages, popup.rule]),
    ...ruleset.redirects.filter((redirect) => has("redirect", redirect.id)).map((redirect) => redirect.rule),
  ];
};

/** The headers of a page (RFC 9111) at an instant: how long it may be kept ends with the next edge of a schedule. */
export function cacheHeaders(
  ruleset: Ruleset,
  advice: PageAdvice,
  at: number,
): { "cache-control": string; vary?: string } {
  if (!advice.shared) return { "cache-control": "private, no-store" };
  const next = advice.leans.includes("time")
    ? edges(rulesOn(ruleset, advice), ruleset, at, at + longestShared * 1000)[0]
    : undefined;
  const seconds = next === undefined ? longestShared : Math.max(0, Math.floor((next - at) / 1000));
  return {
    // Browsers ask each time; only shared caches keep it.
    "cache-control": `public, max-age=0, s-maxage=${seconds}`,
    ...(advice.vary.length > 0 ? { vary: advice.vary.join(", ") } : {}),
  };
}

const ordered = (found: readonly Leaning[]): Leaning[] => leanings.filter((leaning) => found.includes(leaning));

/** What a signal leans on; undefined: on the page alone. */
function leaningOf(signal: string, ruleset: Ruleset): Leaning | undefined {
  // Where no page is called a search engine, words stand in the link alone.
  if (signal === "search.words" && ruleset.searchSources.length === 0) return "link";
  return traitsOf(signal)?.leans ?? undefined;
}

/** The least and the most that a rule can come to. */
interface Bounds {
  low: Truth;
  high: Truth;
}

/** What holds on every page alike, found on the first of them. */
class Everywhere {
  readonly asksPage = new Map<Rule, boolean>();
  readonly bounds = new Map<Rule, Bounds>();
  readonly signals = new Map<Rule, readonly string[]>();
  readonly leanings = new Map<string, Leaning | undefined>();
}

/** One page, with what its rules can come to there. */
class PageLook {
  constructor(
    readonly ruleset: Ruleset,
    readonly compiler: RuleCompiler,
    readonly reading: Reading,
    readonly everywhere: Everywhere,
  ) {}

  slots(): PartLeaning[] {
    return this.ruleset.slots.flatMap((slot) => {
      if (this.bounds(slot.pages).high !== YES) return [];
      const signals = new Set(this.signals(slot.pages));
      const leans = new Set<Leaning>();
      let sure = 0;
      for (const variant of slot.variants) {
        if (!variant.on) continue;
        const { low, high } = this.bounds(variant.rule);
        if (high !== YES) continue;
        for (const signal of this.signals(variant.rule)) signals.add(signal);
        this.drawn(variant.arms, signals, leans);
        if (variant.rememberDays !== undefined) leans.add("visitor");
        // Those below one that is always shown never come.
        if (low === YES && ++sure >= slot.take) break;
      }
      if (sure < slot.take && slot.fallback) this.told(slot.fallback, signals);
      return [this.part("slot", slot, signals, leans)];
    });
  }

  popups(): PartLeaning[] {
    return this.ruleset.popups.flatMap((popup) => {
      if (!popup.on || this.bounds({ all: [popup.pages, popup.rule] }).high !== YES) return [];
      const signals = new Set([...this.signals(popup.pages), ...this.signals(popup.rule)]);
      const leans = new Set<Leaning>(popup.cap || this.ruleset.site.popupGapMinutes > 0 ? ["visitor"] : []);
      this.drawn(popup.arms, signals, leans);
      return [this.part("popup", popup, signals, leans)];
    });
  }

  redirects(): PartLeaning[] {
    return this.ruleset.redirects.flatMap((redirect) => {
      if (!redirect.on || this.bounds(redirect.rule).high !== YES) return [];
      const leans = new Set<Leaning>(redirect.frequency === "always" ? [] : ["visitor"]);
      if (redirect.skipBots) leans.add("device");
      if (redirect.exemptAddresses.length > 0) leans.add("measured");
      return [this.part("redirect", redirect, new Set(this.signals(redirect.rule)), leans)];
    });
  }

  private part(
    kind: PartLeaning["kind"],
    { id, name }: { id: string; name: string },
    signals: Set<string>,
    leans: Set<Leaning>,
  ): PartLeaning {
    for (const signal of signals) {
      const leaning = this.leaning(signal);
      if (leaning) leans.add(leaning);
      // What is worked out of the cart leans on the rules of offers, too.
      if (traitsOf(signal)?.byOffers)
        for (const offer of this.ruleset.offers)
          for (const inner of this.signals(offer.rule)) {
            const more = this.leaning(inner);
            if (more) leans.add(more);
          }
    }
    return {
      kind,
      id,
      name,
      signals: [...signals].filter((signal) => this.leaning(signal)).sort(),
      leans: ordered([...leans]),
    };
  }

  /** Arms are drawn by the visitor's name, and a drawn block may tell signals. */
  private drawn(arms: readonly Arm[], signals: Set<string>, leans: Set<Leaning>): void {
    if (arms.filter((arm) => arm.weight > 0).length > 1) leans.add("visitor");
    for (const arm of arms) if (arm.content) this.told(arm.content, signals);
  }
  private told(content: Content, signals: Set<string>): void {
    for (const token of Object.values(content.tokens)) signals.add(token.signal);
  }

  private leaning(signal: string): Leaning | undefined {
    const { leanings: known } = this.everywhere;
    if (!known.has(signal)) known.set(signal, leaningOf(signal, this.ruleset));
    return known.get(signal);
  }

  /** Whether a rule asks for anything that the page tells: else it comes to the same on every page. */
  private asksPage(rule: Rule): boolean {
    if (rule === null) return false;
    const known = this.everywhere.asksPage.get(rule);
    if (known !== undefined) return known;
    const members = isCondition(rule) ? undefined : groupOf(rule);
    const asks = isCondition(rule)
      ? rule.signal.startsWith("marker.") || !this.leaning(rule.signal)
      : members
        ? members.rules.some((inner) => this.asksPage(inner))
        : this.asksPage(this.audience((rule as { audience: string }).audience));
    this.everywhere.asksPage.set(rule, asks);
    return asks;
  }
  private once<T>(rule: Rule, known: Map<Rule, T>, find: () => T): T {
    if (this.asksPage(rule)) return find();
    const before = known.get(rule);
    if (before !== undefined) return before;
    const found = find();
    known.set(rule, found);
    return found;
  }

  /** The signals that a rule may still lean on here: parts that the page decides are left out. */
  private signals(rule: Rule): readonly string[] {
    return this.once(rule, this.everywhere.signals, () => this.signalsHere(rule));
  }
  private signalsHere(rule: Rule): readonly string[] {
    if (rule === null) return [];
    const { low, high } = this.bounds(rule);
    if (low === YES || high === NO) return [];
    if (isCondition(rule)) return this.behind(rule.signal);
    const members = groupOf(rule);
    if (members) return members.rules.flatMap((inner) => this.signals(inner));
    return this.signals(this.audience((rule as { audience: string }).audience));
  }
  /** A marker leans on memory, and on what gives it here and now. */
  private behind(signal: string): readonly string[] {
    const marker = signal.startsWith("marker.")
      ? this.ruleset.markers.find((item) => item.id === signal.slice(7))
      : undefined;
    return marker ? [signal, ...this.signals(marker.gain ?? null)] : [signal];
  }
  private audience(id: string): Rule {
    return this.ruleset.audiences.find((item) => item.id === id)?.rule ?? null;
  }

  /** The least and the most that a rule can come to on this page, whoever looks at it. */
  private bounds(rule: Rule): Bounds {
    return this.once(rule, this.everywhere.bounds, () => this.boundsHere(rule));
  }
  private boundsHere(rule: Rule): Bounds {
    if (rule === null) return { low: YES, high: YES };
    if (isCondition(rule)) return this.fixed(rule);
    const members = groupOf(rule);
    if (!members) return this.bounds(this.audience((rule as { audience: string }).audience));
    const inner = members.rules.map((one) => this.bounds(one));
    const least = (side: "low" | "high") => Math.min(YES, ...inner.map((one) => one[side])) as Truth;
    const most = (side: "low" | "high") => Math.max(NO, ...inner.map((one) => one[side])) as Truth;
    if (members.group === "all") return { low: least("low"), high: least("high") };
    if (members.group === "any") return { low: most("low"), high: most("high") };
    return { low: (YES - most("high")) as Truth, high: (YES - most("low")) as Truth };
  }
  private fixed(condition: Condition): Bounds {
    if (this.leaning(condition.signal)) return { low: NO, high: YES };
    const truth = this.compiler.condition(condition).judge(this.reading);
    return { low: truth, high: truth };
  }
}
