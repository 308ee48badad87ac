/** Where links and rules do not meet. */
import type { Ruleset } from "../formats/ruleset";
import { evaluate } from "../rules/evaluate";
import { RuleCompiler } from "../rules/compile";
import { RuleContext } from "../rules/condition";
import type { Owner } from "../ruleset/uses";
import { comparable, unaccented } from "../text/fold";
import { Reading, readingRules } from "../visit/reading";
import type { Condition } from "../formats/rule";
import { askedTags, expectations, expectedValues, type Expectation } from "./expected";
import { hasPlaceholder, linkText, type CampaignLink, type Tag } from "./link";

/** Something about one tag of a link. */
export interface TagNote {
  tag: string;
  /**
   * `unasked`: no rule and no text asks for this parameter. `unknown`: rules ask for it, but none knows this value. `near`: the
   * same as `like` but for accents, spaces or strokes, and rules tell the two apart. `case`: the same but for capital letters,
   * which rules do not mind and other programs do. `twice`: the parameter stands there twice; rules take the first.
   */
  says: "unasked" | "unknown" | "near" | "case" | "twice";
  like?: string;
}

/** Letters without what only decorates them: accents, capitals, strokes and spaces. */
const bare = (text: string): string => unaccented(text).replace(/[\s_\-.]+/gu, "-");

/** How texts are spelled, as far as was asked for lately: the same values stand in hundreds of links. */
const spellings = new Map<string, { comparable: string; bare: string }>();
const mostSpellings = 10_000;
function spelling(text: string): { comparable: string; bare: string } {
  const known = spellings.get(text);
  if (known) return known;
  if (spellings.size >= mostSpellings) spellings.clear();
  const found = { comparable: comparable(text), bare: bare(text) };
  spellings.set(text, found);
  return found;
}

function likeness(value: string, known: readonly string[]): Pick<TagNote, "says" | "like"> | undefined {
  const own = spelling(value);
  const same = known.find((item) => item !== value && spelling(item).comparable === own.comparable);
  if (same) return { says: "case", like: same };
  const near = known.find((item) => item !== value && spelling(item).bare === own.bare);
  return near === undefined ? undefined : { says: "near", like: near };
}

/** What a ruleset expects of links, read once. */
interface Expected {
  asked: ReadonlySet<string>;
  all: readonly Expectation[];
  values: (tag: string) => readonly string[];
  /** What comes of a tag with a value: rules wait for such a tag and this one feeds none of them; or it is fed, or awaited by none. */
  isUnknown: (tag: Tag) => boolean;
}
const read = new WeakMap<Ruleset, Expected>();
function expectedBy(ruleset: Ruleset): Expected {
  const known = read.get(ruleset);
  if (known) return known;
  const values = new Map<string, string[]>();
  const unknown = new Map<string, boolean>();
  const all = expectations(ruleset);
  const judge = conditionJudge(ruleset);
  const found: Expected = {
    asked: askedTags(ruleset),
    all,
    isUnknown(tag) {
      const url = linkText({ path: "/", tags: [tag], part: "" }, ruleset.site.origin);
      const before = unknown.get(url);
      if (before !== undefined) return before;
      const wanting = all.filter((item) => item.tag === tag.name);
      const is = wanting.length > 0 && !wanting.some((item) => judge(item.condition, url));
      unknown.set(url, is);
      return is;
    },
    values(tag) {
      if (!values.has(tag)) values.set(tag, expectedValues(tag, ruleset));
      return values.get(tag) as string[];
    },
  };
  read.set(ruleset, found);
  return found;
}

/** What is to be said of the tags of a link. `others`: the tags of other links, which should be spelled alike. */
export function tagNotes(tags: readonly Tag[], ruleset: Ruleset, others: readonly Tag[] = []): TagNote[] {
  const { asked, values, isUnknown } = expectedBy(ruleset);
  const out: TagNote[] = [];
  tags.forEach(({ name, value }, index) => {
    if (value === "") return;
    if (
      tags.findIndex((tag) => tag.name === name) < index &&
      !out.some((note) => note.tag === name && note.says === "twice")
    )
      out.push({ tag: name, says: "twice" });
    const known = values(name);
    const elsewhere = others.filter((tag) => tag.name === name).map((tag) => tag.value);
    const alike = known.includes(value)
      ? undefined
      : (likeness(value, known) ?? (elsewhere.includes(value) ? undefined : likeness(value, elsewhere)));
    if (alike) out.push({ tag: name, ...alike });
    else if (!asked.has(name)) {
      const near = likeness(name, [...asked]);
      out.push({ tag: name, says: "unasked", ...(near ? { like: near.like } : {}) });
    } else if (!hasPlaceholder(value) && isUnknown({ name, value })) out.push({ tag: name, says: "unknown" });
  });
  return out;
}

/** Asks whether an address meets a condition. */
function conditionJudge(ruleset: Ruleset): (condition: Condition, url: string) => boolean {
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  const rules = readingRules(ruleset);
  const readings = new Map<string, Reading>();
  const readingOf = (url: string): Reading => {
    const known = readings.get(url) ?? new Reading({ at: "2026-01-01T00:00:00Z", url }, rules);
    readings.set(url, known);
    return known;
  };
  return (condition, url) => {
    const reading = readingOf(url);
    return evaluate(condition, reading, compiler).verdict === "true";
  };
}

/** A rule that waits for a link, and no kept link feeds it. */
export interface Unfed {
  owner: Owner;
  condition: Condition;
  tag: string;
  /** The value of a kept link that differs only in how it is spelled. */
  like?: string;
}

/** Conditions on parameters that none of the links meets, each of an owner once. */
export function unfed(links: readonly CampaignLink[], ruleset: Ruleset): Unfed[] {
  const { all } = expectedBy(ruleset);
  const judge = conditionJudge(ruleset);
  // A condition on a parameter is met by links that have it alone.
  const urls = new Map<string, string[]>();
  for (const link of links)
    for (const name of new Set(link.tags.map((tag) => tag.name)))
      urls.set(name, [...(urls.get(name) ?? []), linkText(link, ruleset.site.origin)]);
  // The same condition stands in many rules; and it may read several parameters.
  const fed = new Map<string, boolean>();
  const isFed = (condition: Condition): boolean => {
    const key = JSON.stringify(condition);
    const before = fed.get(key);
    if (before !== undefined) return before;
    const tags = new Set(all.filter((item) => item.condition === condition).map((item) => item.tag));
    const is = [...tags].some((tag) => urls.get(tag)?.some((url) => judge(condition, url)));
    fed.set(key, is);
    return is;
  };
  const out = new Map<string, Unfed>();
  for (const { owner, condition, tag } of all) {
    // What words of a search say comes from a search engine first; a link is only another way.
    if (condition.signal === "search.words" && condition.op !== "isPresent") continue;
    if (isFed(condition)) continue;
    const key = `${owner.kind} ${owner.id} ${condition.signal} ${JSON.stringify(condition.value)}`;
    const values = links.flatMap((link) => link.tags.filter((item) => item.name === tag).map((item) => item.value));
    const wanted = [condition.value].flat().filter((item) => typeof item === "string");
    const like = values.find((value) => wanted.some((item) => bare(item) === bare(value)));
    if (!out.has(key)) out.set(key, { owner, condition, tag, ...(like === undefined ? {} : { like }) });
  }
  return [...out.values()];
}
