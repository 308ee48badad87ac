/** What becomes of a page in the mirror: its own addresses lead into the mirror, its policies go, the lens's script comes in. */
import { isUrl } from "@/core/text/is-url";
import { RewritingStream } from "parse5-html-rewriting-stream";
import { mirrorPaths, type MirrorMap } from "@/core/preview/mirror";

interface Options {
  /** The address of the page on its site. */
  url: string;
  map: MirrorMap;
}
interface Attribute {
  name: string;
  value: string;
}

/** Attributes that hold one address. */
const addressed = new Set(["href", "src", "action", "formaction", "poster", "data", "xlink:href", "background"]);
/** Attributes that hold several, each with what it is for. */
const listed = new Set(["srcset", "imagesrcset"]);
/** What stands in for the page script in the mirror. */
const ours = `<script src="${mirrorPaths.script}" data-mirror></script>`;
const isTag = (text: string): boolean => text.includes("/v1/page.js");

/** An address that leads to the site itself, in the mirror; undefined: it stays as it is. */
function moved(text: string, base: string, map: MirrorMap): string | undefined {
  const trimmed = text.trim();
  // What is told from the page's own address stays so: the mirror has the same paths.
  if (!/^([a-z][a-z0-9+.-]*:)?\/\//i.test(trimmed) || !isUrl(trimmed, base)) return undefined;
  return map.toMirror(new URL(trimmed, base));
}
const movedList = (text: string, base: string, map: MirrorMap): string =>
  text.replace(/(^|,\s*|\s)((?:https?:)?\/\/[^\s,]+)/gi, (whole, before: string, address: string) => {
    const there = moved(address, base, map);
    return there === undefined ? whole : `${before}${there}`;
  });

/** Addresses of the site within a style sheet or script text: written out in full, they lead into the mirror. */
export const rewriteStyle = (text: string, { url, map }: Options): string =>
  text.replace(
    /(url\(\s*["']?|@import\s+["'])((?:https?:)?\/\/[^"')\s]+)/gi,
    (whole, before: string, address: string) => {
      const there = moved(address, url, map);
      return there === undefined ? whole : `${before}${there}`;
    },
  );

/** A page as the mirror shows it. */
export async function rewritePage(html: string, options: Options): Promise<string> {
  const { map } = options;
  const stream = new RewritingStream();
  const out: string[] = [];
  let base = options.url;
  let begun = false;
  let within = "";
  const begin = () => {
    if (!begun) stream.emitRaw(ours);
    begun = true;
  };

  /** What becomes of an element's attributes; undefined: the element goes. */
  const attributesOf = (tagName: string, attributes: readonly Attribute[]): Attribute[] | undefined => {
    const value = (name: string) => attributes.find((attribute) => attribute.name === name)?.value;
    if (tagName === "meta") {
      const kind = (value("http-equiv") ?? "").trim().toLowerCase();
      if (/^(content-security-policy(-report-only)?|x-frame-options)$/.test(kind)) return undefined;
      if (kind === "refresh") {
        const [, wait = "0", to = ""] =
          /^\s*([\d.]+)\s*[;,]?\s*(?:url\s*=\s*)?["']?([^"']*)/i.exec(value("content") ?? "") ?? [];
        const there = isUrl(to, base) ? map.toMirror(new URL(to, base)) : undefined;
        // Where it leads away from the site: through a lens one stays.
        return there === undefined
          ? undefined
          : [
              ...attributes.filter(({ name }) => name !== "content"),
              { name: "content", value: `${wait}; url=${there}` },
            ];
      }
    }
    return attributes.flatMap(({ name, value: text }) => {
      // A changed style sheet has another sum; and what would leave the frame stays in it.
      if ((name === "integrity" && tagName === "link") || (name === "target" && /^_(top|parent|blank)$/i.test(text)))
        return [];
      if (tagName === "meta" && name === "charset") return [{ name, value: "utf-8" }];
      if (tagName === "meta" && name === "content" && /charset=/i.test(text))
        return [{ name, value: "text/html; charset=utf-8" }];
      if (addressed.has(name)) return [{ name, value: moved(text, base, map) ?? text }];
      if (listed.has(name)) return [{ name, value: movedList(text, base, map) }];
      if (name === "style") return [{ name, value: rewriteStyle(text, { url: base, map }) }];
      return [{ name, value: text }];
    });
  };

  // What comes out is taken at once: a page is short, and a stream's turns cost more than its tokens.
  stream.push = (chunk: unknown) => {
    if (typeof chunk === "string") out.push(chunk);
    return true;
  };
  stream.on("startTag", (token, raw) => {
    const { tagName, attrs } = token;
    // Before anything that a page may do; after <html> and <head>, so that what stands there keeps its meaning.
    if (tagName !== "html" && tagName !== "head") begin();
    within = tagName;
    const value = (name: string) => attrs.find((attribute) => attribute.name === name)?.value ?? "";
    if (tagName === "script" && isTag(value("src"))) {
      within = "tag";
      return;
    }
    if (tagName === "base" && isUrl(value("href"), options.url)) base = new URL(value("href"), options.url).href;
    const after = attributesOf(tagName, attrs);
    if (after === undefined) return;
    const isSame = after.length === attrs.length && after.every((one, at) => one.value === attrs[at]?.value);
    if (isSame) stream.emitRaw(raw);
    else stream.emitStartTag({ ...token, attrs: after });
    if (tagName === "head") begin();
  });
  stream.on("endTag", (_, raw) => {
    if (within !== "tag") stream.emitRaw(raw);
    within = "";
  });
  stream.on("text", (_, raw) => {
    if (raw.trim() !== "") begin();
    if (within === "style") stream.emitRaw(rewriteStyle(raw, { url: base, map }));
    // The tag as it is pasted into pages is a script of its own.
    else if (within !== "tag" && !(within === "script" && isTag(raw))) stream.emitRaw(raw);
  });
  await new Promise<void>((done, failed) => {
    stream.on("finish", done);
    stream.on("error", failed);
    stream.end(html);
  });
  if (!begun) out.unshift(ours);
  return out.join("");
}
