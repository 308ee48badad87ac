import { bare } from "../messages/articles";
import { t } from "../messages/t";
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
  if (actual.state === "unknown") return t("cannot tell {label}: {reason}", { label, reason: actual.reason });
  if (actual.state === "absent")
    return t("no {bare}{reason}", { bare: bare(label), reason: actual.reason ? ` (${actual.reason})` : "" });
  const found = actual.value;
  switch (info?.kind) {
    case "schedule": {
      const { at, zone } = found as { at: string; zone?: string };
      const asked = (condition.value as { zone: string }).zone;
      const used = asked === "site" ? names.site.zone : asked === "visitor" ? (zone ?? names.site.zone) : asked;
      return t("{instantPhrase} in {used}", { instantPhrase: instantPhrase(Date.parse(at), used, false), used });
    }
    case "place": {
      const place = found as Place;
      return t("in {value}", { value: [place.city, countryName(place.country ?? "")].filter(Boolean).join(", ") });
    }
    case "language":
      return t("reads {found}", { found: (found as string[]).map(languageName).join(t(", then ")) });
    case "money":
      return t("{label} is {formatMoney}", {
        label,
        formatMoney: formatMoney(found as number, names.site.currency, names.site.language),
      });
    case "flag":
      return condition.signal === "history.returning"
        ? found
          ? t("has been here before")
          : t("is here for the first time")
        : t("{label} is {found}", { label, found: found ? t("on") : t("off") });
    case "date":
      return t("{label} is {found}", { label, found: datePhrase(String(found)) });
    case "texts":
      return `${label}: ${(found as string[]).map((text) => `“${text}”`).join(", ")}`;
    case "text":
      return t("{label} is “{found}”", { label, found: String(found) });
    default:
      return t("{label} is {found}", { label, found: String(found) });
  }
}
