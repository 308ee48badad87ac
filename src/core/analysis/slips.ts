import { t } from "../messages/t";
import { namesValues, operators } from "../formats/operators";
import { isCondition, walkRule, type Condition } from "../formats/rule";
import type { Ruleset } from "../formats/ruleset";
import { allRules, type Owner } from "../ruleset/uses";
import { zonePhrase } from "../rules/phrases";
import { fold, unaccented } from "../text/fold";
import type { Finding } from "./findings";

const plain = (text: string): string => unaccented(text).trim();

const textsOf = (condition: Condition): string[] =>
  [condition.value].flat().filter((item): item is string => typeof item === "string");

/** Conditions that look like a slip of the pen: capital letters, accents, wildcards, spaces and zones. */
export function* slips(ruleset: Ruleset): Generator<Finding> {
  const spellings = new Map<string, { text: string; owner: Owner }>();
  const zones = new Map<string, Owner[]>();
  const all: { owner: Owner; condition: Condition }[] = [];
  for (const { owner, rule } of allRules(ruleset))
    walkRule(rule, (inner) => {
      if (inner !== null && isCondition(inner)) all.push({ owner, condition: inner });
    });
  const slip = (owner: Owner, says: string): Finding => ({
    finding: "slip",
    ...(owner.kind === "variant" ? { slot: owner.slot as string, variant: owner.id } : {}),
    ...(owner.kind === "slot" ? { slot: owner.id } : {}),
    ...(owner.kind !== "variant" && owner.kind !== "slot" ? { about: { kind: owner.kind, id: owner.id } } : {}),
    proof: "searched",
    says: `${owner.name}: ${says}`,
  });
  for (const { owner, condition } of all) {
    const { signal, op, exact } = condition;
    if (signal === "time") {
      const zone = (condition.value as { zone?: string } | undefined)?.zone;
      const name = zone === "site" ? ruleset.site.zone : zone;
      if (name && name !== "visitor") zones.set(name, [...(zones.get(name) ?? []), owner]);
      continue;
    }
    for (const text of textsOf(condition)) {
      if (operators[op].value === "pattern" && !text.includes("*"))
        yield slip(owner, t("“{text}” has no * in it: it matches only that very text.", { text }));
      if (namesValues(op) && text.includes("*"))
        yield slip(owner, t("“{text}” has a * in it, which stands for anything only in “matches”.", { text }));
      if (text !== text.trim()) yield slip(owner, t("“{text}” begins or ends with a space.", { text }));
      if (namesValues(op)) {
        const key = `${signal} ${plain(text)}`;
        const other = spellings.get(key);
        const differs = other && (fold(other.text) !== fold(text) || (exact && other.text !== text));
        if (differs)
          yield slip(
            owner,
            t("“{text}” is spelled “{text2}” in {owner}: only one of them can be right.", {
              text,
              text2: other.text,
              owner: other.owner.name,
            }),
          );
        else if (!other) spellings.set(key, { text, owner });
        if (exact && text !== text.toLowerCase() && signal.startsWith("campaign."))
          yield slip(
            owner,
            t("capital letters count in “{text}”: a link tagged “{text2}” would not fit.", {
              text,
              text2: text.toLowerCase(),
            }),
          );
      }
    }
  }
  // One zone among many schedules of another one is rarely meant.
  const total = [...zones.values()].reduce((sum, list) => sum + list.length, 0);
  for (const [zone, owners] of zones)
    if (zones.size > 1 && owners.length === 1 && total >= 4 && zone !== ruleset.site.zone)
      yield slip(
        owners[0] as Owner,
        t("its hours are in {zone}, all others in {zone2}.", {
          zone: zonePhrase(zone),
          zone2: zonePhrase(ruleset.site.zone),
        }),
      );
}
