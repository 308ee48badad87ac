import { t } from "../messages/t";
import { isUrl } from "../text/is-url";
import sanitize from "sanitize-html";
import { parseWebUrl } from "../formats/visit";

/** What is left of a text after cleaning, and what was taken out of it, in words. */
export interface Cleaned {
  text: string;
  removed: string[];
}

const tags = [
  "p",
  "br",
  "strong",
  "b",
  "em",
  "i",
  "u",
  "s",
  "small",
  "sub",
  "sup",
  "code",
  "h2",
  "h3",
  "h4",
  "ul",
  "ol",
  "li",
  "blockquote",
  "hr",
  "a",
  "img",
];
const attributes: Record<string, string[]> = { a: ["href", "title"], img: ["src", "alt", "width", "height"] };
/** Drops links and pictures that lead nowhere a page may lead, whatever blanks stand before their scheme. */
const dropUnsafe: sanitize.Transformer = (tagName, attribs) => {
  const kept = Object.entries(attribs).filter(
    ([name, value]) => (name !== "href" && name !== "src") || isPlainLink(value),
  );
  return { tagName, attribs: Object.fromEntries(kept) };
};
const options: sanitize.IOptions = {
  transformTags: { a: dropUnsafe, img: dropUnsafe },
  allowedTags: tags,
  allowedAttributes: attributes,
  allowedSchemes: ["http", "https", "mailto", "tel"],
  allowedSchemesByTag: { img: ["http", "https"] },
  allowProtocolRelative: false,
  parseStyleAttributes: false,
  disallowedTagsMode: "discard",
};

/** Rich text as pages may have it: a short list of tags, links to web, mail and telephone, no script in any form. */
export const cleanHtml = (html: string): string => (/[<&]/.test(html) ? sanitize(html, options) : html);

/** Cleans rich text, and tells what was taken out: for the one who wrote it. */
export function cleanHtmlReport(html: string): Cleaned {
  const removed = new Set<string>();
  const text = sanitize(html, {
    ...options,
    transformTags: {
      "*": (tagName, attribs) => {
        if (!tags.includes(tagName)) removed.add(`<${tagName}>`);
        else
          for (const [name, value] of Object.entries(attribs)) {
            if (!(attributes[tagName] ?? []).includes(name)) removed.add(name);
            else if ((name === "href" || name === "src") && !isPlainLink(value))
              removed.add(t("the link {value}", { value: value.slice(0, 40) }));
          }
        return dropUnsafe(tagName, attribs);
      },
    },
  });
  const plain = cleanText(text);
  return { text: plain.text, removed: [...removed, ...plain.removed] };
}

/** Bidirectional embeddings and overrides, which can make a text read as another; and control characters. */
const overrides = /[\u202A-\u202E\u2066-\u2069]/g;
const controls = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\u007F\uFEFF]/g;

/** Takes out of a plain text the characters that cannot be seen and change how the rest reads. */
export function cleanText(text: string): Cleaned {
  const removed: string[] = [];
  const without = (pattern: RegExp, words: string) => {
    const next = text.replace(pattern, "");
    if (next !== text) removed.push(words);
    text = next;
  };
  without(overrides, t("marks that turn the reading direction"));
  without(controls, t("control characters"));
  return { text, removed };
}

/** Blanks and marks that cannot be seen, of any script. */
const blanks = /[\s\p{Z}\p{Cc}\p{Cf}]/gu;
/** Whether an address in rich text has a scheme that pages may link to, or none; another host is named in full only. */
const isPlainLink = (value: string): boolean => {
  const bare = value.replace(blanks, "");
  return isSafeLink(bare) && !/^[\\/]{2}/.test(bare);
};

/** Whether a link leads to the web, to mail or telephone, or to a page of the site itself. */
export function isSafeLink(link: string): boolean {
  const base = "https://base.invalid";
  if (!isUrl(link, base)) return false;
  const url = new URL(link, base);
  return parseWebUrl(url.href) !== undefined || /^(mailto|tel):$/.test(url.protocol);
}
