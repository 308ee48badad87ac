import { said, t, text } from "../messages/t";
import * as z from "zod";
import { id } from "../formats/basics";

/** The parameters of a campaign by the trade's words, in the order in which they are written. UTM: common practice. */
export const campaignTags = said([
  { name: "utm_source", signal: "campaign.source", word: text("Source"), example: "newsletter" },
  { name: "utm_medium", signal: "campaign.medium", word: text("Medium"), example: "email" },
  { name: "utm_campaign", signal: "campaign.name", word: text("Campaign name"), example: "winter-light" },
  { name: "utm_term", signal: "campaign.term", word: text("Term"), example: text("shade fern") },
  { name: "utm_content", signal: "campaign.content", word: text("Content"), example: "top-picture" },
]);
export const tagSchema = z.strictObject({ name: z.string().min(1).max(80), value: z.string().max(500) });
export type Tag = z.output<typeof tagSchema>;

/** A kept campaign link: where it leads, with which parameters, and what its makers need to know of it. */
export const linkSchema = z.strictObject({
  id,
  name: z.string().trim().min(1).max(120),
  /** Path of the page, with its own query if it has one: `/ferns`. */
  path: z
    .string()
    .max(500)
    .regex(/^\/(?![/\\])[^\s#?\\]*$/, { error: () => t("must be the path of a page, beginning with /") }),
  tags: z.array(tagSchema).max(40),
  /** A part of the page, after #; without it "". */
  part: z.string().max(120).default(""),
  note: z.string().max(500).default(""),
  /** Who uses it: the mail, the ad, the partner. */
  usedBy: z.string().max(120).default(""),
});
export type CampaignLink = z.output<typeof linkSchema>;

/**
 * Places that an ad system or a mailer fills in when the link is used, as several programs write them: `{name}`, `{{name}}`,
 * `${name}`, `[name]`, `%%name%%`, `*|name|*`. They stay as they are.
 */
const placeholder = /\{\{[^{}]*\}\}|\$?\{[^{}]*\}|\[[^[\]]*\]|%%[^%\s]+%%|\*\|[^|]*\|\*/g;

/** A value percent-encoded for a query, but for the placeholders in it. */
export function encodeValue(value: string): string {
  let out = "";
  let from = 0;
  for (const match of value.matchAll(placeholder)) {
    out += encodeURIComponent(value.slice(from, match.index)) + match[0];
    from = match.index + match[0].length;
  }
  return out + encodeURIComponent(value.slice(from));
}
export const hasPlaceholder = (value: string): boolean => value.search(placeholder) >= 0;

/** The part after `?` alone, as ad systems append it. Parameters without a value are left out. */
export const queryText = (tags: readonly Tag[]): string =>
  tags
    .filter((tag) => tag.name !== "" && tag.value !== "")
    .map((tag) => `${encodeURIComponent(tag.name)}=${encodeValue(tag.value)}`)
    .join("&");

/** The whole address of a link, on an origin without a path: `https://shop.example`. */
export function linkText(link: Pick<CampaignLink, "path" | "tags" | "part">, origin: string): string {
  const query = queryText(link.tags);
  const part = link.part ? `#${encodeURIComponent(link.part)}` : "";
  return `${origin}${link.path}${query ? `?${query}` : ""}${part}`;
}

/** Text of a query taken apart without losing placeholders: `+` is a space, a bad escape stays as it is. */
const decoded = (text: string): string => {
  try {
    return decodeURIComponent(text.replaceAll("+", " "));
  } catch {
    return text;
  }
};

/**
 * Reads a link that was pasted: a whole address, one beginning with `/`, or the part after `?` alone (then the path is "").
 * Undefined if it is none.
 */
export function readLink(text: string): { origin: string; path: string; tags: Tag[]; part: string } | undefined {
  const told = text.trim();
  const match = /^(https?:\/\/[^/?#\s]+)?(\/[^?#\s]*)?(?:\?([^#\s]*))?(?:#(\S*))?$/i.exec(told);
  const bare = !match && /^[^\s=&?#/]+=\S*$/.test(told) ? told : undefined;
  if (bare === undefined && (!match || told === "")) return undefined;
  const query = bare ?? match?.[3] ?? "";
  const tags = query
    .split("&")
    .filter((piece) => piece !== "")
    .map((piece) => {
      const at = piece.indexOf("=");
      return at < 0
        ? { name: decoded(piece), value: "" }
        : { name: decoded(piece.slice(0, at)), value: decoded(piece.slice(at + 1)) };
    });
  const path = match?.[2] ?? (match?.[1] ? "/" : "");
  return { origin: match?.[1] ?? "", path, tags, part: decoded(match?.[4] ?? "") };
}

/** The tags in the order in which links are written: the campaign's own first, then the others as they came. */
export function inOrder(tags: readonly Tag[]): Tag[] {
  const place = (tag: Tag) => {
    const at = campaignTags.findIndex((item) => item.name === tag.name);
    return at < 0 ? campaignTags.length : at;
  };
  return tags
    .map((tag, index) => ({ tag, index }))
    .sort((a, b) => place(a.tag) - place(b.tag) || a.index - b.index)
    .map(({ tag }) => tag);
}
