/** Where a thing of the draft is used by others, so that a change can say what it touches. */
import { t } from "../messages/t";
import { isCondition, walkRule, type Rule } from "../formats/rule";
import type { Content, PlaceEntry, Ruleset } from "../formats/ruleset";

/** A place in the draft that has a rule or content. */
export interface Owner {
  kind: "slot" | "variant" | "audience" | "marker" | "offer" | "popup" | "redirect" | "goal";
  id: string;
  /** As people know it: "Home hero, Repotting clinic". */
  name: string;
  /** The slot of a variant. */
  slot?: string;
}
/** Who uses a thing: a place with a rule or content, or what is read from pages. */
export type User = Owner | { kind: "collect"; id: string; name: string; slot?: undefined };
/** What may be used by something. */
export type Used =
  | { audience: string }
  | { placeList: string }
  | { marker: string }
  | { offer: string }
  | { dataField: string }
  | { blockType: string };

/** Every rule of a ruleset, with whom it belongs to. */
export function allRules(ruleset: Ruleset): { owner: Owner; part: string; rule: Rule }[] {
  const out: { owner: Owner; part: string; rule: Rule }[] = [];
  for (const slot of ruleset.slots) {
    out.push({ owner: { kind: "slot", id: slot.id, name: slot.name }, part: "pages", rule: slot.pages });
    for (const variant of slot.variants)
      out.push({
        owner: { kind: "variant", id: variant.id, slot: slot.id, name: `${slot.name}, ${variant.name}` },
        part: "rule",
        rule: variant.rule,
      });
  }
  for (const item of ruleset.audiences)
    out.push({
      owner: { kind: "audience", id: item.id, name: t("Audience {name}", { name: item.name }) },
      part: "rule",
      rule: item.rule,
    });
  for (const item of ruleset.markers) {
    const owner: Owner = { kind: "marker", id: item.id, name: t("Marker {name}", { name: item.name }) };
    out.push({ owner, part: "gain", rule: item.gain ?? null }, { owner, part: "lose", rule: item.lose });
  }
  for (const item of ruleset.offers)
    out.push({
      owner: { kind: "offer", id: item.id, name: t("Offer {name}", { name: item.name }) },
      part: "rule",
      rule: item.rule,
    });
  for (const item of ruleset.popups) {
    const owner: Owner = { kind: "popup", id: item.id, name: t("Pop-up {name}", { name: item.name }) };
    out.push({ owner, part: "pages", rule: item.pages }, { owner, part: "rule", rule: item.rule });
  }
  for (const item of ruleset.goals)
    out.push({
      owner: { kind: "goal", id: item.id, name: t("Goal {name}", { name: item.name }) },
      part: "pages",
      rule: item.pages,
    });
  for (const item of ruleset.redirects)
    out.push({
      owner: { kind: "redirect", id: item.id, name: t("Redirect {name}", { name: item.name }) },
      part: "rule",
      rule: item.rule,
    });
  return out;
}

/** Every block of content of a ruleset, with whom it belongs to. */
export function allContents(ruleset: Ruleset): { owner: Owner; content: Content }[] {
  const out: { owner: Owner; content: Content }[] = [];
  for (const slot of ruleset.slots) {
    if (slot.fallback)
      out.push({ owner: { kind: "slot", id: slot.id, name: `${slot.name}, fallback` }, content: slot.fallback });
    for (const variant of slot.variants)
      for (const arm of variant.arms)
        if (arm.content)
          out.push({
            owner: { kind: "variant", id: variant.id, slot: slot.id, name: `${slot.name}, ${variant.name}` },
            content: arm.content,
          });
  }
  for (const popup of ruleset.popups)
    for (const arm of popup.arms)
      if (arm.content)
        out.push({
          owner: { kind: "popup", id: popup.id, name: t("Pop-up {popup}", { popup: popup.name }) },
          content: arm.content,
        });
  return out;
}

const signalOf = (used: Used): string | undefined =>
  "marker" in used
    ? `marker.${used.marker}`
    : "offer" in used
      ? `cart.toGo.${used.offer}`
      : "dataField" in used
        ? used.dataField
        : undefined;

/** Who uses a thing, each once, in the order of the ruleset. */
export function usesOf(used: Used, ruleset: Ruleset): User[] {
  const out = new Map<string, User>();
  const add = (owner: User) => out.set(`${owner.kind} ${owner.id}`, owner);
  const signal = signalOf(used);
  for (const { owner, rule } of allRules(ruleset))
    walkRule(rule, (inner) => {
      if (inner === null) return;
      if (isCondition(inner)) {
        if (signal !== undefined && inner.signal === signal) add(owner);
        if ("placeList" in used && inner.signal === "place" && Array.isArray(inner.value))
          for (const entry of inner.value as PlaceEntry[])
            if (typeof entry === "object" && entry !== null && "list" in entry && entry.list === used.placeList)
              add(owner);
      } else if ("audience" in used && "audience" in inner && inner.audience === used.audience) add(owner);
    });
  for (const { owner, content } of allContents(ruleset)) {
    if ("blockType" in used && content.type === used.blockType) add(owner);
    if (signal !== undefined && Object.values(content.tokens).some((token) => token.signal === signal)) add(owner);
  }
  if (signal !== undefined && ruleset.collect.some((entry) => entry.signal === signal))
    add({ kind: "collect", id: signal, name: t("What pages tell") });
  return [...out.values()];
}
