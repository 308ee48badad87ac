/**
 * The in-process door for a site that is itself a Next application beside this product's code: a page request is decided before it
 * is rendered, where cookies can be set and redirects sent.
 */
import { isUrl, urlOf } from "@/core/text/is-url";
import { NextResponse, type NextRequest } from "next/server";
import { lensHeader } from "@/core/checks/site";
import type { Ruleset } from "@/core/formats/ruleset";
import type { Visit } from "@/core/formats/visit";
import { readCookies } from "@/core/visit/cookies";
import { answer, answerShare, consentOf, type Answer } from "@/delivery/answer";
import { liveRulesets } from "@/delivery/live";
import { cookieAge, memoryCookie } from "@/delivery/memory-cookie";
import { countOpening } from "@/delivery/opened";
import { answerHeader, handOver } from "./handover";
import { policy } from "./policy";

/** What the site tells of a request beside the request itself. */
export interface Told {
  /** What it tells of the page; undefined: there is no such page, and only a redirect counts. */
  page: Visit["page"] | undefined;
  cart?: Visit["cart"];
  data?: Record<string, unknown>;
}
export interface Door {
  /** The site's id. */
  site: string;
  /** The origin of the workbench, in whose frames pages are looked at. */
  workbench: string;
  /** Where the framework finds the page of a path. */
  target: (path: string) => string;
  tell: (path: string, cookies: Record<string, string>) => Told;
}

/** Headers by which the door speaks to the page behind it: nobody else sets them. */
export const doorHeaders = [
  answerHeader,
  "x-mirada-search",
  "x-mirada-workbench",
  "x-mirada-path",
  "x-nonce",
  "content-security-policy",
];

/** The parameters by which lenses come: they are no part of the address that is looked at. */
const ownParameters = ["look", "shared", "turn"];

/** Decides what a page shows to whoever asks for it; undefined: there is no such page, or nothing is live. */
export async function answerPage(
  { site, tell }: Pick<Door, "site" | "tell">,
  request: { headers: Headers; cookies: Record<string, string>; path: string; search: string },
): Promise<Answer | undefined> {
  const { headers, cookies, path, search } = request;
  const { page, cart, data } = tell(path, cookies);
  const query = new URLSearchParams(search);
  const shared = query.get("shared");
  if (shared) {
    for (const name of ownParameters) query.delete(name);
    const rest = query.toString();
    return answerShare(site, shared, path, rest ? `?${rest}` : "", page);
  }
  const answered = await answer({
    site,
    target: `${path}${search}`,
    headers,
    peer: headers.get("x-mirada-peer") ?? undefined,
    forwarded: headers.get("x-mirada-forwarded") ?? undefined,
    cookies,
    page,
    cart,
    data,
    pass: query.get("look") ?? undefined,
  });
  return page || answered?.decision.redirect ? answered : undefined;
}

/** Answers a page request: with what was decided for it, a redirect, or the page that was not changed. */
export async function openPage(request: NextRequest, door: Door, headers: Headers): Promise<NextResponse> {
  const { pathname, search } = request.nextUrl;
  const frame = frameOf(request, door.workbench);
  headers.set("x-mirada-search", search);
  headers.set("x-mirada-workbench", frame);
  const reads = request.method === "GET" || request.method === "HEAD";
  const cookies = readCookies(request.headers.get("cookie") ?? undefined);
  const answered = reads
    ? await answerPage(door, { headers: request.headers, cookies, path: pathname, search })
    : undefined;
  const redirect = answered?.look ? null : answered?.decision.redirect;
  const more = { "frame-ancestors": frame, "frame-src": framesOf(answered) };
  const csp = policy(headers, more, answered?.look !== undefined);
  let response: NextResponse;
  if (redirect) {
    const location = locationHere(redirect.location, answered?.ruleset.site.origin, request);
    response = NextResponse.redirect(location, redirect.status);
  } else {
    if (answered) headers.set(answerHeader, handOver(answered));
    const target = request.nextUrl.clone();
    target.pathname = door.target(pathname);
    response = NextResponse.rewrite(target, { request: { headers } });
  }
  remember(response, request, answered);
  response.headers.set("content-security-policy", csp);
  response.headers.set("x-content-type-options", "nosniff");
  response.headers.set("referrer-policy", "strict-origin-when-cross-origin");
  if (answered?.look) {
    const { redirect: sent, cart } = answered.decision;
    const told = { redirect: sent?.location ?? null, total: cart?.total ?? null };
    response.headers.set(lensHeader, encodeURIComponent(JSON.stringify(told)));
  }
  response.headers.set("accept-ch", "Sec-CH-Viewport-Width");
  const cache = answered?.cache ?? { "cache-control": "private, no-store" };
  response.headers.set("cache-control", cache["cache-control"]);
  if (cache.vary) response.headers.append("vary", cache.vary);
  return response;
}

function remember(response: NextResponse, request: NextRequest, answered: Answer | undefined): void {
  // What is only fetched ahead, or asked about, is not remembered.
  const isPageView = request.method === "GET" && request.headers.get("sec-purpose") === null;
  if (answered?.remember === null) response.cookies.set(memoryCookie, "", { path: "/", maxAge: 0 });
  else if (answered?.remember !== undefined && isPageView)
    response.cookies.set(memoryCookie, answered.remember, keptAs(request, answered.ruleset));
}

/** How the memory cookie is kept: `Secure` where a page is asked for under its site's own address, and that is https. */
function keptAs(request: Request, { site }: Ruleset) {
  const { protocol, host } = new URL(site.origin);
  const secure = protocol === "https:" && request.headers.get("host") === host;
  return { httpOnly: true, sameSite: "lax", path: "/", secure, maxAge: cookieAge } as const;
}

/** Whether a request comes from a page of the very host that it asks. */
export function isOwnPage(request: Request): boolean {
  const origin = request.headers.get("origin");
  return origin !== null && urlOf(origin)?.host === request.headers.get("host");
}

/** Answers `POST /opened`: a pop-up has opened on a page of the site's own, and counts from now on. */
export async function takeOpened(site: string, request: Request): Promise<NextResponse> {
  if (!isOwnPage(request)) return new NextResponse(null, { status: 403 });
  const note = await request.text();
  const live = await liveRulesets().get(site);
  const cookies = readCookies(request.headers.get("cookie") ?? undefined);
  const agreed = consentOf({ headers: request.headers, cookies }) === "yes";
  const remember = live && agreed ? countOpening(live, cookies[memoryCookie], note) : undefined;
  const response = new NextResponse(null, { status: 204 });
  if (live && remember !== undefined)
    response.cookies.set(memoryCookie, remember, keptAs(request, live.engine.ruleset));
  return response;
}

/**
 * Whose page may have this one in a frame: the workbench; and for a shared lens, which is seen from the network on a port of its
 * own, that page under the workbench's name or under the very name by which this one is asked for.
 */
function frameOf(request: NextRequest, workbench: string): string {
  const from = request.headers.get("referer") ?? "";
  if (!request.nextUrl.searchParams.has("shared") || !isUrl(from)) return workbench;
  const { origin, hostname } = new URL(from);
  const names = [workbench, `http://${request.headers.get("host") ?? ""}`].filter((text) => isUrl(text));
  return names.some((text) => new URL(text).hostname === hostname) ? origin : workbench;
}

/** Whose pages may stand in a frame here. */
const framesOf = (answered: Answer | undefined): string =>
  answered?.otherHosts.flatMap((host) => [`https://${host}`, `http://${host}`]).join(" ") || "'none'";

/** Where a redirect leads from here: within the site it stays on the host by which it was asked for, as a relative address. */
function locationHere(location: string, origin: string | undefined, request: NextRequest): URL {
  const url = new URL(location);
  if (!origin || url.origin !== new URL(origin).origin) return url;
  return new URL(`${url.pathname}${url.search}${url.hash}`, `http://${request.headers.get("host") ?? "localhost"}`);
}
