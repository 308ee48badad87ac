import { NextResponse, type NextRequest } from "next/server";
import { lensHeader } from "@/core/checks/site";
import { readCookies } from "@/core/visit/cookies";
import { cookieAge, memoryCookie } from "@/delivery/memory-cookie";
import type { Answer } from "@/delivery/answer";
import { answerShared, answerShop } from "@/storefront/brackenfold/door";
import { answerHeader, handOver } from "@/storefront/handover";

/** Sites that are served here beside the workbench, each on its own host name: `NAME.localhost`. */
const sites = ["brackenfold"];
/** Stand-ins for other people's sites, each on a host name of its own. */
const standIns = ["quarry", "mossmail", "quiz", "stone-and-moss"];
/** The names under which the workbench is reached. Behind a proxy: those in MIRADA_HOSTS, parted by commas. */
const workbenchHosts = [
  "localhost",
  "127.0.0.1",
  "[::1]",
  ...(process.env.MIRADA_HOSTS ?? "").split(",").filter(Boolean),
];

const own = [
  answerHeader,
  "x-mirada-search",
  "x-mirada-workbench",
  "x-mirada-path",
  "x-nonce",
  "content-security-policy",
];

/** Routes by host name: the workbench's origin never serves a site's pages, and the other way round. */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  const host = request.headers.get("x-forwarded-host") ?? request.headers.get("host") ?? "localhost";
  const [, hostname = "", port] = /^(\[[^\]]*\]|[^:]*)(?::(\d+))?$/.exec(host.toLowerCase()) ?? [];
  const { pathname } = request.nextUrl;
  const headers = new Headers(request.headers);
  for (const name of own) headers.delete(name);

  const shared = /^\/shared\/([A-Za-z0-9_-]{24})\/site(\/.*)?$/.exec(pathname);
  if (shared) return openShared(request, shared[1] as string, shared[2] ?? "/", host, headers);
  const site = sites.find((name) => hostname === `${name}.localhost`);
  if (site) return openSite(request, site, `http://localhost${port ? `:${port}` : ""}`, headers);
  const standIn = standIns.find((name) => hostname === `${name}.localhost`);
  if (standIn) return openStandIn(request, standIn, headers);
  if (hostname.endsWith(".localhost") || /^\/(sites|stand-ins)(\/|$)/.test(pathname))
    return new NextResponse("There is no such page here.\n", { status: 404 });
  // Under another name (a rebound one, say) nothing of the workbench is there; shared lenses are seen under any.
  if (!workbenchHosts.includes(hostname) && !/^\/shared\//.test(pathname))
    return new NextResponse("The workbench is not served under this name.\n", { status: 421 });
  const site0 = `http://${sites[0]}.localhost${port ? `:${port}` : ""}`;
  const csp = policy(headers, {
    "img-src": `'self' data: blob: https: ${site0}`,
    "frame-src": `'self' ${site0}`,
    "frame-ancestors": "'none'",
    "worker-src": "'self' blob:",
  });
  headers.set("x-mirada-path", `${pathname}${request.nextUrl.search}`);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", csp);
  response.headers.set("x-content-type-options", "nosniff");
  response.headers.set("referrer-policy", "same-origin");
  return response;
}

/** The hash of an empty style element: making a picture of a page (core of the lens bridge) needs one to read rules with. */
const emptyStyle = "'sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU='";

/**
 * A strict Content-Security-Policy with a nonce of its own for this request, which the page's scripts and styles are given: what
 * was injected has none and does not run. Style attributes are allowed, style elements are not.
 */
function policy(headers: Headers, more: Record<string, string>, pictured = false): string {
  const nonce = Buffer.from(crypto.getRandomValues(new Uint8Array(16))).toString("base64");
  const rules: Record<string, string> = {
    "default-src": "'none'",
    "script-src": `'self' 'nonce-${nonce}' 'strict-dynamic'`,
    "style-src": `'self' 'nonce-${nonce}'${pictured ? ` ${emptyStyle}` : ""}`,
    "style-src-attr": "'unsafe-inline'",
    "img-src": "'self' data: https:",
    "font-src": "'self'",
    "connect-src": "'self'",
    "form-action": "'self'",
    "base-uri": "'none'",
    "object-src": "'none'",
    "frame-src": "'none'",
    ...more,
  };
  const text = Object.entries(rules)
    .map(([name, value]) => `${name} ${value}`)
    .join("; ");
  headers.set("x-nonce", nonce);
  headers.set("content-security-policy", text);
  return text;
}

/** A page of a site as a shared lens sees it: read-only, in a frame of its own origin. */
async function openShared(
  request: NextRequest,
  id: string,
  path: string,
  host: string,
  headers: Headers,
): Promise<NextResponse> {
  const { search } = request.nextUrl;
  const answer = request.method === "GET" ? await answerShared(id, path, search) : undefined;
  if (!answer) return new NextResponse("This link has expired.\n", { status: 404 });
  headers.set("x-mirada-search", search);
  headers.set("x-mirada-workbench", `http://${host}`);
  headers.set(answerHeader, handOver(answer));
  const csp = policy(headers, { "frame-ancestors": "'self'", "frame-src": framesOf(answer) });
  const target = request.nextUrl.clone();
  target.pathname = `/sites/brackenfold${path}`;
  const response = NextResponse.rewrite(target, { request: { headers } });
  response.headers.set("content-security-policy", csp);
  response.headers.set("cache-control", "private, no-store");
  return response;
}

/** A page of a stand-in. It tells where its visitors come from, as other people's sites do. */
function openStandIn(request: NextRequest, name: string, headers: Headers): NextResponse {
  const target = request.nextUrl.clone();
  target.pathname = `/stand-ins/${name}${request.nextUrl.pathname}`;
  headers.set("x-mirada-search", request.nextUrl.search);
  // A form of theirs leads on to the shop, or to the workbench.
  const host = request.headers.get("host") ?? "";
  const at = (name: string) => `http://${host.replace(/^[^.]+\./, name)}`;
  const csp = policy(headers, { "form-action": `'self' ${at(`${sites[0]}.`)} ${at("")}` });
  const response = NextResponse.rewrite(target, { request: { headers } });
  // A static page is the same for everybody, and so has no nonce: it brings a policy of its own.
  if (name !== "stone-and-moss") response.headers.set("content-security-policy", csp);
  response.headers.set("referrer-policy", "unsafe-url");
  response.headers.set("x-content-type-options", "nosniff");
  return response;
}

/** A page of a site: decided here, where cookies can be set and redirects sent; rendered by its route. */
async function openSite(
  request: NextRequest,
  site: string,
  workbench: string,
  headers: Headers,
): Promise<NextResponse> {
  const { pathname, search } = request.nextUrl;
  headers.set("x-mirada-search", search);
  headers.set("x-mirada-workbench", workbench);
  const answer =
    request.method === "GET" || request.method === "HEAD"
      ? await answerShop({
          headers: request.headers,
          cookies: readCookies(request.headers.get("cookie") ?? undefined),
          path: pathname,
          search,
        })
      : undefined;
  const redirect = answer?.look ? null : answer?.decision.redirect;
  const csp = policy(
    headers,
    { "frame-ancestors": workbench, "frame-src": framesOf(answer) },
    answer?.look !== undefined,
  );
  let response: NextResponse;
  if (redirect)
    response = NextResponse.redirect(
      locationHere(redirect.location, answer?.ruleset.site.origin, request),
      redirect.status,
    );
  else {
    if (answer) headers.set(answerHeader, handOver(answer));
    const target = request.nextUrl.clone();
    target.pathname = `/sites/${site}${pathname}`;
    response = NextResponse.rewrite(target, { request: { headers } });
  }
  if (answer?.remember === null) response.cookies.set(memoryCookie, "", { path: "/", maxAge: 0 });
  else if (answer?.remember !== undefined && isPageView(request))
    response.cookies.set(memoryCookie, answer.remember, {
      httpOnly: true,
      sameSite: "lax",
      path: "/",
      maxAge: cookieAge,
    });
  response.headers.set("content-security-policy", csp);
  response.headers.set("x-content-type-options", "nosniff");
  response.headers.set("referrer-policy", "strict-origin-when-cross-origin");
  if (answer?.look) {
    const { redirect: sent, cart } = answer.decision;
    const told = { redirect: sent?.location ?? null, total: cart?.total ?? null };
    response.headers.set(lensHeader, encodeURIComponent(JSON.stringify(told)));
  }
  response.headers.set("accept-ch", "Sec-CH-Viewport-Width");
  const cache = answer?.cache ?? { "cache-control": "private, no-store" };
  response.headers.set("cache-control", cache["cache-control"]);
  if (cache.vary) response.headers.append("vary", cache.vary);
  return response;
}

/** Whose pages may stand in a frame here. */
const framesOf = (answer: Answer | undefined): string =>
  answer?.otherHosts.flatMap((host) => [`https://${host}`, `http://${host}`]).join(" ") || "'none'";

/** Whether a request is somebody looking at a page: what is only fetched ahead, or asked about, is not remembered. */
const isPageView = (request: NextRequest): boolean =>
  request.method === "GET" && request.headers.get("sec-purpose") === null;

/** Where a redirect leads from here: the site's own origin is the host that it is served on. */
function locationHere(location: string, origin: string | undefined, request: NextRequest): URL {
  const url = new URL(location);
  if (!origin || url.origin !== new URL(origin).origin) return url;
  return new URL(`${url.pathname}${url.search}${url.hash}`, `http://${request.headers.get("host") ?? "localhost"}`);
}

export const config = { matcher: ["/((?!_next/static|_next/image|brackenfold/|favicon.ico|icon.svg).*)"] };
