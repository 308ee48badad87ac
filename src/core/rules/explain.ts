import { formatMoney } from "../money/currency";
import type { Condition } from "../formats/rule";
import type { Place } from "../formats/visit";
import { countryName } from "../visit/countries";
import { signalInfo } from "../visit/signals";
import type { RuleTrace } from "./evaluate";
import { datePhrase, instantPhrase } from "./phrases";
import { languageName, type SentenceNames } from "./sentence";
import type { TruthName } from "./truth";

type Leaf = Extract<RuleTrace, { condition: Condition }>;

/** One condition that decided a verdict, said in words with the actual value. */
export interface Reason {
  verdict: TruthName;
  text: string;
}

/** The conditions on which a rule's verdict hangs: those that, were they otherwise, could change it. */
export function decidingLeaves(trace: RuleTrace): Leaf[] {
  if ("condition" in trace) return [trace];
  if ("always" in trace) return [];
  if ("audience" in trace) return decidingLeaves(trace.rule);
  const { group, rules, verdict } = trace;
  const wanted: TruthName =
    group === "none" ? (verdict === "true" ? "false" : verdict === "false" ? "true" : "unknown") : verdict;
  return rules.filter((rule) => rule.verdict === wanted).flatMap(decidingLeaves);
}

/** What a condition found, in words: "in Portugal", "the search is “shade fern”", "no campaign source". */
export function actualText(leaf: Leaf, names: SentenceNames): string {
  const { condition, actual } = leaf;
  const info = signalInfo(condition.signal, names);
  const label = info?.label ?? condition.signal;
  const bare = label.replace(/^the /, "");
  if (actual.state === "unknown") return `cannot tell ${label}: ${actual.reason}`;
  if (actual.state === "absent") return `no ${bare}${actual.reason ? ` (${actual.reason})` : ""}`;
  const found = actual.value;
  switch (info?.kind) {
    case "schedule": {
      const { at, zone } = found as { at: string; zone?: string };
      const asked = (condition.value as { zone: string }).zone;
      const used = asked === "site" ? names.site.zone : asked === "visitor" ? (zone ?? names.site.zone) : asked;
      return `${instantPhrase(Date.parse(at), used, false)} in ${used}`;
    }
    case "place": {
      const place = found as Place;
      return `in ${[place.city, countryName(place.country ?? "")].filter(Boolean).join(", ")}`;
    }
    case "language":
      return `reads ${(found as string[]).map(languageName).join(", then ")}`;
    case "money":
      return `${label} is ${formatMoney(found as number, names.site.currency, names.site.language)}`;
    case "flag":
      return condition.signal === "history.returning"
        ? found
          ? "has been here before"
          : "is here for the first time"
        : `${label} is ${found ? "on" : "off"}`;
    case "date":
      return `${label} is ${datePhrase(String(found))}`;
    case "texts":
      return `${label}: ${(found as string[]).map((text) => `“${text}”`).join(", ")}`;
    case "text":
      return `${label} is “${String(found)}”`;
    default:
      return `${label} is ${String(found)}`;
  }
}
