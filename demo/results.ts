/**
 * Four weeks of results: the made-up visitors of `traffic.ts`, decided by the engine under the release that was live, and what
 * they saw, clicked and bought as events. What is invented is how people behave, not what is shown to them.
 */
import { createEngine, type Engine } from "@/core/decision/engine";
import type { KeptEvent, TellerGroups, VisitGroups } from "@/core/formats/event";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import { onPage, type PageFacts } from "@/core/lens/pages";
import type { PlaceLookup } from "@/core/visit/places";
import { readDeviceOnce } from "@/delivery/devices";
import { products } from "./shop/catalogue";
import { randomBy } from "@/core/statistics/random";
import { visitsOn, type MadeVisitor } from "./traffic";

const day = 86_400_000;
/** So many visits a day. */
export const demoVisits = 190;
/** How ready a visitor is to buy, by what they saw of the promise; 1 is as ever. */
const readiness: Record<string, number> = { "promise/a": 1.08, "promise/b": 2 };
/** How often a variant's links are followed, where it is not the usual share. */
const followed: Record<string, number> = {
  clinic: 0.21,
  "winter-light": 0.16,
  "shade-search": 0.14,
  partner: 0.19,
  frost: 0.09,
  "": 0.06,
};

export interface LiveFrom {
  /** Epoch ms. */
  from: number;
  ruleset: Ruleset;
}

/** A name for an event that follows from its number: a UUID (version 8, RFC 9562). */
const uuidOf = (random: () => number): string => {
  const word = () =>
    Math.floor(random() * 2 ** 32)
      .toString(16)
      .padStart(8, "0");
  const [a, b, c, d] = [word(), word(), word(), word()];
  return `${a}-${b.slice(0, 4)}-8${b.slice(5)}-a${c.slice(1, 4)}-${c.slice(4)}${d}`;
};

/** So many times as many look into the cart as buy. */
const looking = 2.2;

/** The events of whole days in [from, until), day by day. @param by groups visits and visitors, as the storefront does */
export function* madeEvents(
  live: readonly LiveFrom[],
  [from, until]: readonly [number, number],
  perDay: number,
  facts: PageFacts,
  lookup: PlaceLookup,
  by: {
    groupsOf: (engine: Engine, visit: Visit, memory: unknown) => VisitGroups;
    tellerGroups: (teller: MadeVisitor, lookup: PlaceLookup) => TellerGroups;
  },
): Generator<KeptEvent[]> {
  const engines = live.map((item) => ({
    from: item.from,
    engine: createEngine(item.ruleset, { lookup, device: readDeviceOnce }),
  }));
  const known: MadeVisitor[] = [];
  const memories = new Map<string, unknown>();
  const seen = new Map<string, Map<string, Set<string>>>();
  for (let date = from; date < until; date += day) {
    const number = (date - from) / day;
    const [random, others] = [randomBy(number + 7), randomBy(number + 70_007)];
    const events: KeptEvent[] = [];
    for (const { visitor, views, mood } of visitsOn(date, perDay, known, number)) {
      const past = visitor.consent
        ? (seen.get(visitor.id) ?? new Map<string, Set<string>>())
        : new Map<string, Set<string>>();
      if (visitor.consent) seen.set(visitor.id, past);
      const teller = by.tellerGroups(visitor, lookup);
      let groups: VisitGroups = { source: "", campaign: "", visits: "" };
      let ready = 0.16;
      let last = 0;
      for (const view of views) {
        // By clocks ahead of UTC a day begins before ours, and a visit may last into the next: only our own days count.
        if (view.at < from || view.at >= until) continue;
        const { engine } =
          engines.filter((item) => item.from <= view.at).at(-1) ?? (engines[0] as (typeof engines)[number]);
        const visit = onPage(
          {
            at: new Date(view.at).toISOString(),
            url: `https://brackenfold.example${view.target}`,
            ...(view.referrer ? { referrer: view.referrer } : {}),
            ip: visitor.address,
            userAgent: visitor.userAgent,
            acceptLanguage: visitor.acceptLanguage,
            ...(visitor.consent ? { consent: true, visitorId: visitor.id } : {}),
            ...(memories.has(visitor.id) ? { memory: memories.get(visitor.id) as never } : {}),
          },
          facts,
        );
        const decision = engine.decide(visit);
        const told = by.groupsOf(engine, visit, decision.memory);
        if (groups.source === "" || !["", "direct"].includes(told.source)) groups = told;
        if (visitor.consent) memories.set(visitor.id, decision.memory);
        last = view.at;
        const make = (
          kind: KeptEvent["kind"],
          slot: string,
          variant: string,
          arm: string,
          first: boolean,
          name = "",
          value = 0,
        ): void =>
          void events.push({
            id: uuidOf(random),
            at: new Date(Math.min(view.at + 900, until - 1)).toISOString(),
            kind,
            slot,
            variant,
            arm,
            first,
            name,
            value,
            ...teller,
            ...groups,
          });
        for (const [slot, shown] of Object.entries(decision.slots))
          for (const item of shown) {
            const [variant, arm] = [item.variant ?? "", item.arm ?? ""];
            const key = `${slot}/${variant}/${arm}`;
            const did = past.get(key);
            make("exposure", slot, variant, arm, visitor.consent && !did);
            if (!did) past.set(key, new Set());
            ready *= did ? 1 : (readiness[`${variant}/${arm}`] ?? 1);
            if (item.content && random() < (slot === "home-hero" ? (followed[variant] ?? 0.08) : 0.02)) {
              const did = past.get(key) as Set<string>;
              make("click", slot, variant, arm, visitor.consent && !did.has("click"), "/ferns");
              did.add("click");
            }
          }
      }
      // Goals are told of those only who gave consent, as on the shop's own pages.
      if (!(last > 0 && visitor.consent && views.length > 1)) continue;
      const reach = (name: string, after: number, value: number, ids: () => number): void => {
        for (const [key, did] of past) {
          const [slot = "", variant = "", arm = ""] = key.split("/");
          const first = !did.has(name);
          did.add(name);
          const at = new Date(Math.min(last + after, until - 1)).toISOString();
          const who = { ...teller, ...groups };
          events.push({ id: uuidOf(ids), at, kind: "conversion", slot, variant, arm, first, name, value, ...who });
        }
      };
      // By numbers of their own: who buys does not hang on who only looks into the cart.
      if (mood < looking * ready) reach("cart", 20_000, 0, others);
      if (mood >= ready) continue;
      const value = products[Math.floor(random() * products.length)]?.price ?? 0;
      reach("order", 60_000, value * (1 + Math.floor(random() * 3)), random);
    }
    yield events;
  }
}
