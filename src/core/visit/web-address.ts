import { isUrl } from "../text/is-url";
import { plainHost, queryOf, readablePath } from "./url";

/**
 * A text so plain that the WHATWG URL parser leaves every part of it as it stands: lower-case ASCII names that are no numbers, a
 * path without percent signs and without dots at the beginning of a segment, a query of signs that are not encoded in one. The
 * parts: host, path, query.
 */
const plain =
  /^https?:\/\/((?:[a-z0-9][a-z0-9-]*\.)*[a-z][a-z0-9-]*)(?::\d{1,4})?((?:\/(?!\.)[\w.~!$&'()*+,;=:@-]*)*)(?:\?([\w.~!$&()*+,;=:@/?%[\]{}|-]*))?(?:#[\x21-\x7e]*)?$/;

/** A web address, of which each part is read when it is first asked for: from the text where it is plain, else by the parser. */
export class WebAddress {
  #url: URL | undefined;
  #host: string | undefined;
  #path: string | undefined;
  /** The query as the parser would leave it, without its question mark. */
  #search: string | undefined;
  #query: Map<string, string[]> | undefined;

  private constructor(readonly text: string) {}

  /** @returns undefined if the text is no address */
  static read(text: string): WebAddress | undefined {
    const address = new WebAddress(text);
    return address.#takePlain() || isUrl(text) ? address : undefined;
  }
  /** Of a text that was found to be an address. */
  static of(text: string): WebAddress {
    const address = new WebAddress(text);
    address.#takePlain();
    return address;
  }

  #takePlain(): boolean {
    // Whether a name in Punycode is one is the parser's to say.
    const parts = this.text.includes("xn--") ? null : plain.exec(this.text);
    if (!parts) return false;
    this.#host = parts[1] as string;
    this.#path = parts[2] || "/";
    this.#search = parts[3] ?? "";
    return true;
  }

  get url(): URL {
    return (this.#url ??= new URL(this.text));
  }
  /** The host in lower case, without port and without `www.`; "" if it has none. */
  get host(): string {
    return plainHost(this.#host ?? (this.#host = this.url.hostname));
  }
  /** The path, percent-decoded if the whole is then valid UTF-8. */
  get path(): string {
    return (this.#path ??= readablePath(this.url.pathname));
  }
  get #searched(): string {
    return (this.#search ??= this.url.search.slice(1));
  }
  /** All values of each parameter, in their order, decoded. */
  get query(): Map<string, string[]> {
    return (this.#query ??= queryOf(this.#searched));
  }
  /** The first value of a parameter that has anything in it. */
  first(name: string): string | undefined {
    const search = this.#searched;
    if (search === "") return undefined;
    // Where nothing is encoded a name is found as it stands there.
    if (this.#query === undefined && !encoded.test(search) && !composed.test(name)) return firstIn(search, name);
    return this.query.get(name)?.find((value) => value !== "");
  }
}

const encoded = /[%+]/;
/** Names that stand otherwise in a query than they are, or that could be taken for more than a name. */
const composed = /[%+&=]/;

function firstIn(search: string, name: string): string | undefined {
  const wanted = `${name}=`;
  for (let from = 0; ;) {
    const at = search.indexOf(wanted, from);
    if (at < 0) return undefined;
    from = at + wanted.length;
    if (at > 0 && search.charCodeAt(at - 1) !== 38) continue;
    const end = search.indexOf("&", from);
    const value = end < 0 ? search.slice(from) : search.slice(from, end);
    if (value !== "") return value;
  }
}
