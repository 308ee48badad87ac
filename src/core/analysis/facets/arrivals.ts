/** Where visitors come from: referrers, search words, and parameters that carry words. */
import { isUrl } from "../../text/is-url";
import type { Condition } from "../../formats/rule";
import { parameterOf } from "../../visit/signals";
import type { Domain, Facet, Setting } from "../facet";
import { isEqual, textCandidates } from "../texts";
import { listCandidates } from "./lists";

export function arrivals(conditions: readonly Condition[], { ruleset }: Domain): Facet {
  const on = (prefix: string) => conditions.filter((condition) => condition.signal.startsWith(prefix));
  const own = new URL(ruleset.site.origin).hostname;
  const hosts = textCandidates(on("referrer.host"));
  const urls = textCandidates(on("referrer.url"));
  const wordings = textCandidates(on("search.words"));
  const referrers: (string | undefined)[] = [
    undefined,
    `https://${own}/`,
    "https://elsewhere.example/",
    "https://mail.google.com/",
    "https://www.facebook.com/",
  ];
  const said = on("search.words").length > 0 ? wordings.texts.filter((text) => text !== "") : ["words"];
  for (const source of ruleset.searchSources) {
    referrers.push(`https://${source.host}/`);
    for (const text of said.slice(0, 200))
      referrers.push(`https://${source.host}/?${new URLSearchParams({ [source.parameter]: text })}`);
  }
  // Words of a host are parted by hyphens; the last of them must not run on into the name's end (UAX #29, no break at a dot).
  const hostly = (text: string) =>
    text
      .toLowerCase()
      .replace(/[^a-z0-9.-]+/g, "-")
      .replace(/^[-.]+|[-.]+$/g, "");
  for (const host of hosts.texts.flatMap((text) => [text, `${hostly(text)}.example`, `${hostly(text)}-x.example`]))
    if (/^[a-z0-9.-]+$/i.test(host) && host !== "" && isUrl(`https://${host}/`)) referrers.push(`https://${host}/`);
  for (const url of urls.texts) {
    if (isUrl(url)) referrers.push(url);
    const tail = `https://elsewhere.example/${url.replace(/^\/+/, "")}`;
    if (isUrl(tail)) referrers.push(tail);
  }
  // Parameters that carry search words belong here too, since they answer where the referrer does not.
  const wordSets: [string, string[] | undefined][][] = [[]];
  const asked = ruleset.wordParameters.filter((name) =>
    conditions.some((condition) => parameterOf(condition.signal) === name),
  );
  // Few texts are hosts: what a text could be besides is told only for those that are named as they are.
  const named = on("referrer.host").every(isEqual);
  let exact = named && hosts.exact && urls.exact && wordings.exact && on("referrer.url").length === 0;
  const first = ruleset.wordParameters[0];
  const names = asked.length > 0 ? asked : on("search.words").length > 0 && first !== undefined ? [first] : [];
  for (const name of names) {
    const direct = listCandidates(conditions.filter((condition) => parameterOf(condition.signal) === name));
    const values = [...direct.values, ...(on("search.words").length > 0 ? said.map((text) => [text]) : [])];
    exact &&= direct.exact;
    for (const value of values) wordSets.push([[name, value]]);
  }
  if (asked.length > 1) exact = false;
  const settings: Setting[] = [];
  const few = wordSets.length * referrers.length <= 4000;
  for (const referrer of referrers)
    for (const set of few || referrer === undefined ? wordSets : wordSets.slice(0, 1))
      settings.push((made) => {
        if (referrer === undefined) delete made.visit.referrer;
        else made.visit.referrer = referrer;
        for (const name of ruleset.wordParameters) made.params.delete(name);
        for (const [name, value] of set) if (value) made.params.set(name, value);
      });
  return { name: "arrival", settings, exact: exact && few };
}
