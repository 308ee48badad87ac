import { isUrl } from "@/core/text/is-url";
import { readVisit, type Visit } from "@/core/formats/visit";
import { nowText } from "@/clock";

/** One page request, as a page or a server knows it. */
export interface PageRequest {
  site: string;
  /** The path with its query, as asked for. */
  target: string;
  headers: { get(name: string): string | null };
  /** The peer of the connection. */
  peer?: string | undefined;
  /** X-Forwarded-For as it came; believed only from a trusted proxy. */
  forwarded?: string | undefined;
  cookies: Record<string, string>;
  page: Visit["page"];
  cart: Visit["cart"];
  data?: Visit["data"];
  /** The preview pass that came with the request, if any. */
  pass?: string | undefined;
}

/** What is known of a visitor beside the request itself. */
interface Known {
  address: string | undefined;
  consent: boolean;
  visitorId: string | undefined;
  memory: unknown;
}

const escape = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");
/** Longer headers than any real one are read as not told. */
const longestHeader = 16_384;

/** The visit that a request makes. The site's own host, whatever it is served on, is its origin in rules. */
export function visitOf(request: PageRequest, origin: string, known: Known): Visit {
  const header = (name: string): string | undefined => {
    const value = request.headers.get(name);
    return value === null || value.length > longestHeader ? undefined : value;
  };
  const own = header("host");
  const referrer = header("referer");
  const at = nowText();
  const base = new URL(origin).origin;
  const raw = {
    at,
    url: isUrl(`${base}${request.target}`) ? new URL(`${base}${request.target}`).href : `${base}/`,
    referrer:
      referrer && own ? referrer.replace(new RegExp(`^https?://${escape(own)}(?=[/?#]|$)`, "i"), origin) : referrer,
    ip: known.address,
    userAgent: header("user-agent"),
    hints: hintsOf(header),
    acceptLanguage: header("accept-language"),
    cookies: request.cookies,
    consent: known.consent,
    visitorId: known.visitorId,
    page: request.page,
    cart: request.cart,
    data: request.data,
    memory: known.memory,
  };
  const read = readVisit(raw);
  if (read.ok) return read.value;
  // Whatever a visitor sends, the page must come: then only what is certain is told.
  return { at, url: `${base}/` };
}

function hintsOf(header: (name: string) => string | undefined): Visit["hints"] {
  const mobile = header("sec-ch-ua-mobile");
  const platform = header("sec-ch-ua-platform")?.replace(/^"|"$/g, "");
  const width = Number(header("sec-ch-viewport-width") ?? NaN);
  const hints: NonNullable<Visit["hints"]> = {};
  if (mobile !== undefined) hints.mobile = mobile === "?1";
  if (platform) hints.platform = platform;
  if (Number.isFinite(width) && width > 0) hints.width = width;
  return Object.keys(hints).length === 0 ? undefined : hints;
}
