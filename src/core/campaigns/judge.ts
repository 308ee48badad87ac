/** Where links and rules do not meet. */
import type { Ruleset } from "../formats/ruleset";
import { evaluate } from "../rules/evaluate";
import { RuleCompiler } from "../rules/compile";
import { RuleContext } from "../rules/condition";
import type { Owner } from "../ruleset/uses";
import { comparable, unaccented } from "../text/fold";
import { Reading, readingRules } from "../visit/reading";
import type { Condition } from "../formats/rule";
import { askedTags, expectations, expectedValues } from "./expected";
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

function likeness(value: string, known: readonly string[]): Pick<TagNote, "says" | "like"> | undefined {
  const same = known.find((item) => item !== value && comparable(item) === comparable(value));
  if (same) return { says: "case", like: same };
  const near = known.find((item) => item !== value && bare(item) === bare(value));
  return near === undefined ? undefined : { says: "near", like: near };
}

/** What is to be said of the tags of a link. `others`: the tags of other links, which should be spelled alike. */
export function tagNotes(tags: readonly Tag[], ruleset: Ruleset, others: readonly Tag[] = []): TagNote[] {
  const asked = askedTags(ruleset);
  const judge = conditionJudge(ruleset);
  const out: TagNote[] = [];
  tags.forEach(({ name, value }, index) => {
    if (value === "") return;
    if (
      tags.findIndex((tag) => tag.name === name) < index &&
      !out.some((note) => note.tag === name && note.says === "twice")
    )
      out.push({ tag: name, says: "twice" });
    const known = expectedValues(name, ruleset);
    const elsewhere = others.filter((tag) => tag.name === name).map((tag) => tag.value);
    const alike = known.includes(value)
      ? undefined
      : (likeness(value, known) ?? (elsewhere.includes(value) ? undefined : likeness(value, elsewhere)));
    if (alike) out.push({ tag: name, ...alike });
    else if (!asked.has(name)) {
      const near = likeness(name, [...asked]);
      out.push({ tag: name, says: "unasked", ...(near ? { like: near.like } : {}) });
    } else if (!hasPlaceholder(value)) {
      const wanting = expectations(ruleset).filter((item) => item.tag === name);
      const met = wanting.some((item) =>
        judge(item.condition, linkText({ path: "/", tags: [{ name, value }], part: "" }, ruleset.site.origin)),
      );
      if (wanting.length > 0 && !met) out.push({ tag: name, says: "unknown" });
    }
  });
  return out;
}

/** Asks whether an address meets a condition. */
function conditionJudge(ruleset: Ruleset): (condition: Condition, url: string) => boolean {
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  const rules = readingRules(ruleset);
  return (condition, url) => {
    const reading = new Reading({ at: "2026-01-01T00:00:00Z", url }, rules);
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
  const judge = conditionJudge(ruleset);
  const urls = links.map((link) => linkText(link, ruleset.site.origin));
  const out = new Map<string, Unfed>();
  for (const { owner, condition, tag } of expectations(ruleset)) {
    // What words of a search say comes from a search engine first; a link is only another way.
    if (condition.signal === "search.words" && condition.op !== "isPresent") continue;
    if (urls.some((url) => judge(condition, url))) continue;
    const key = `${owner.kind} ${owner.id} ${condition.signal} ${JSON.stringify(condition.value)}`;
    const values = links.flatMap((link) => link.tags.filter((item) => item.name === tag).map((item) => item.value));
    const wanted = [condition.value].flat().filter((item) => typeof item === "string");
    const like = values.find((value) => wanted.some((item) => bare(item) === bare(value)));
    if (!out.has(key)) out.set(key, { owner, condition, tag, ...(like === undefined ? {} : { like }) });
  }
  return [...out.values()];
}
