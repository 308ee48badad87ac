import { said, t, text } from "../messages/t";
import { bare, some } from "../messages/articles";
import { displayName } from "../messages/names";
import { formatMoney, toMinor } from "../money/currency";
import { isOp, isValueless, meaningOf, operators, positiveOf, valueReader } from "../formats/operators";
import { groupOf, isCondition, type Condition, type Rule } from "../formats/rule";
import type { PlaceEntry, Ruleset } from "../formats/ruleset";
import type { Schedule } from "../formats/schedule";
import { continentNames, countryName, type Continent } from "../visit/countries";
import { signalInfo, type SignalInfo } from "../visit/signals";
import {
  datePhrase,
  daysPhrase,
  joinParts,
  listed,
  missing,
  monthNames,
  plain,
  value,
  zonePhrase,
  type Part,
} from "./phrases";

/** What sentences look names up in. */
export type SentenceNames = Pick<Ruleset, "site" | "dataFields" | "markers" | "offers" | "audiences" | "placeLists">;

/**
 * A rule as one English sentence, to follow "when". Members of a group inside another stand in brackets, so that two rules
 * that group differently never read the same.
 */
export function ruleSentence(rule: Rule, names: SentenceNames): Part[] {
  return phrase(rule, names, true);
}

/** The same as text. */
export const ruleText = (rule: Rule, names: SentenceNames): string => joinParts(ruleSentence(rule, names));

function phrase(rule: Rule, names: SentenceNames, top: boolean): Part[] {
  if (rule === null) return [plain(t("always"))];
  if (isCondition(rule)) return conditionPhrase(rule, names);
  const members = groupOf(rule);
  if (!members) {
    const { audience } = rule as { audience: string };
    const found = names.audiences.find((item) => item.id === audience);
    return [plain(t("the visitor belongs to ")), found ? value(`“${found.name}”`) : missing(`“${audience}”`)];
  }
  const { group, rules } = members;
  if (rules.length === 0) return [missing(t("{group} of … (nothing yet)", { group }))];
  const word = ` ${group === "all" ? t("and") : t("or")} `;
  const inner = rules.flatMap((member, index) => [
    ...(index > 0 ? [plain(word)] : []),
    ...phrase(member, names, false),
  ]);
  const open: Part = { text: group === "none" ? t("none of (") : "(", kind: "group" };
  const close: Part = { text: ")", kind: "group" };
  if (group === "none") return [open, ...inner, close];
  return top ? inner : [open, ...inner, close];
}

const deviceWords: Record<string, string> = said({
  phone: text("on a phone"),
  tablet: text("on a tablet"),
  desktop: text("at a desktop computer"),
  bot: text("a crawler"),
  other: text("on another device"),
});
const kindWords: Record<string, string> = said({
  direct: text("directly"),
  internal: text("from another page of the site"),
  search: text("from a search engine"),
  mail: text("from web mail"),
  social: text("from a social network"),
  other: text("from another site"),
});

function conditionPhrase(condition: Condition, names: SentenceNames): Part[] {
  const parts = knownPhrase(condition, names);
  return condition.unknown ? [...parts, plain(t(" (or it is not known)"))] : parts;
}

function knownPhrase(condition: Condition, names: SentenceNames): Part[] {
  const { signal, op } = condition;
  const info = signalInfo(signal, names);
  if (!info) return [missing(signal === "" ? t("(choose a signal)") : t("(no signal {signal})", { signal }))];
  const { label } = info;
  // From a file that was not checked anything may come.
  if (!isOp(op)) return [plain(`${label} `), missing(t("(no operator {op})", { op: String(op) }))];
  if (op === "isKnown") return [plain(t("{label} is known", { label }))];
  if (op === "isPresent") return [plain(t("there is {label}", { label: some(label) }))];
  if (op === "isAbsent") return [plain(t("there is no {label}", { label: bare(label) }))];
  const given = condition.value;
  if (!isValueless(op) && (given === undefined || (given === "" && operators[op].value !== "text")))
    return [
      plain(
        `${info.kind === "schedule" ? t("it") : info.kind === "place" ? t("the visitor") : label} ${t(operators[op].words)} `,
      ),
      missing(),
    ];

  try {
    return valuePhrase(condition, info, given, names);
  } catch {
    // While it is being written, or from a file, a value may have any shape: what cannot be worded is not there yet.
    return [plain(`${label} ${t(operators[op].words)} `), missing()];
  }
}

/** A condition with its value, which is of the shape that its op takes. @throws TypeError if it is not */
function valuePhrase({ signal, op, exact }: Condition, info: SignalInfo, given: unknown, names: SentenceNames): Part[] {
  const { label } = info;
  const { words, value: shape } = operators[op];
  const verb = t(words);
  const { denied } = positiveOf(op);
  const meaning = meaningOf(op, given, valueReader(info.kind, names.site.currency, exact));
  switch (info.kind) {
    case "schedule":
      return [plain(denied ? t("it is not ") : t("it is ")), ...schedulePhrase(given as Schedule, names.site.zone)];
    case "place":
      return [plain(t("the visitor {verb} ", { verb })), ...placesPhrase(given as PlaceEntry[], names)];
    case "language":
      return [
        plain(t("the visitor {verb} ", { verb })),
        ...listed(
          (given as string[]).map((tag) => value(languageName(tag))),
          t("or"),
        ),
      ];
    case "flag": {
      const on = meaning?.is === "flag" && meaning.flag;
      if (signal === "history.returning")
        return [plain(on ? t("the visitor has been here before") : t("the visitor is here for the first time"))];
      return [plain(t("{label} is ", { label })), value(on ? t("on") : t("off"))];
    }
    case "money":
      return [plain(`${label} ${verb} `), ...pair(given, (amount) => money(amount, names))];
    case "number": {
      const seen = /^history\.category\.(.+)$/.exec(signal);
      if (seen && op === "gte")
        return [
          plain(t("the visitor has seen ")),
          value(seen[1] as string),
          plain(t(" at least ")),
          value(times(given)),
        ];
      return [plain(`${label} ${verb} `), ...pair(given, String)];
    }
    case "date":
      return meaning?.is === "anniversary"
        ? [plain(t("it is the anniversary of {label}", { label }))]
        : [plain(`${label} ${verb} `), value(datePhrase(String(given)))];
    case "address":
      return [plain(`${label} ${verb} `), ...listed((given as string[]).map(value), t("or"))];
    default: {
      const words = (text: string): Part[] | undefined => {
        const table = signal === "device.kind" ? deviceWords : signal === "referrer.kind" ? kindWords : undefined;
        if (!table || exact || meaning?.is !== "equal" || (denied && shape !== "text")) return undefined;
        const found = Object.hasOwn(table, text) ? table[text] : undefined;
        return found === undefined ? undefined : [value(found)];
      };
      const all = Array.isArray(given) ? given.map(String) : [String(given)];
      const special = all.map(words);
      if (special.every((part) => part !== undefined)) {
        const verb =
          signal === "device.kind"
            ? denied
              ? t("the visitor is not ")
              : t("the visitor is ")
            : denied
              ? t("the visitor does not arrive ")
              : t("the visitor arrives ");
        return [
          plain(verb),
          ...listed(
            special.map((part) => part[0] as Part),
            t("or"),
          ),
        ];
      }
      const shown = meaning?.is === "words" ? String(given).split(/\s+/).filter(Boolean) : all;
      const join = meaning?.is === "words" && meaning.every ? t("and") : t("or");
      return [
        plain(`${label} ${verb} `),
        ...listed(
          shown.map((text) => value(text === "" ? t("empty") : `“${text}”`)),
          join,
        ),
        ...(exact ? [plain(t(" (case counts)"))] : []),
      ];
    }
  }
}

const times = (count: unknown): string => (count === 1 ? t("once") : t("{count} times", { count: String(count) }));

function pair(given: unknown, text: (item: unknown) => string): Part[] {
  if (Array.isArray(given)) return [value(text(given[0])), plain(` ${t("and")} `), value(text(given[1]))];
  return [value(text(given))];
}

function money(amount: unknown, { site }: SentenceNames): string {
  const minor = typeof amount === "string" ? toMinor(amount, site.currency) : undefined;
  return minor === undefined ? String(amount) : formatMoney(minor, site.currency, site.language);
}

/** The name of a language tag. */
export const languageName = (tag: string): string => displayName("language", tag) ?? tag;

/** Entries of a list of places as people say them. */
export function placesPhrase(entries: readonly PlaceEntry[], names: Pick<Ruleset, "placeLists">): Part[] {
  return listed(
    entries.map((entry) => {
      if ("list" in entry)
        return value(`“${names.placeLists.find((list) => list.id === entry.list)?.name ?? entry.list}”`);
      if ("continent" in entry)
        return value(continentNames[entry.continent.toUpperCase() as Continent] ?? entry.continent);
      if ("km" in entry)
        return value(t("{km} km around {lat}, {lon}", { km: entry.km, lat: entry.lat, lon: entry.lon }));
      return value([entry.city, entry.region, countryName(entry.country)].filter(Boolean).join(", "));
    }),
    t("or"),
  );
}

const yearlyPhrase = (date: string): string => {
  if (date.length > 5) return datePhrase(date);
  const [month, day] = date.split("-").map(Number) as [number, number];
  return t("{day} {month}", { day, month: monthNames[month - 1] });
};
const localPhrase = (local: string): string => `${datePhrase(local.slice(0, 10))}, ${local.slice(11)}`;

/** A schedule as people say it, to follow "it is". The zone stands beside every time. */
export function schedulePhrase(schedule: Schedule, siteZone: string): Part[] {
  if (typeof schedule !== "object" || schedule === null) return [missing()];
  const zone = schedule.zone === "site" ? siteZone : schedule.zone;
  const parts: Part[][] = [];
  if (schedule.days) parts.push([value(daysPhrase(schedule.days))]);
  if (schedule.dates)
    parts.push(
      listed(
        schedule.dates.map((date) => value(yearlyPhrase(date))),
        t("or"),
      ),
    );
  if (schedule.repeat) parts.push([plain(t("on the days of ")), value(schedule.repeat)]);
  if (schedule.windows)
    parts.push(
      listed(
        schedule.windows.map((window) =>
          value(t("between {start} and {end}", { start: window.start, end: window.end })),
        ),
        t("or"),
      ),
    );
  if (schedule.from) parts.push([plain("from "), value(localPhrase(schedule.from))]);
  if (schedule.until) parts.push([plain("until "), value(localPhrase(schedule.until))]);
  if (parts.length === 0) parts.push([value(t("any time"))]);
  const spaced = parts.flatMap((part, index) => (index > 0 ? [plain(" "), ...part] : part));
  return [...spaced, plain(`, ${zone === "visitor" ? t("the visitor’s time") : zonePhrase(zone)}`)];
}
