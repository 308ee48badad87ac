import { NextResponse, type NextRequest } from "next/server";
import { reachableFrom } from "@/core/visit/origins";
import { policy } from "@/in-process/policy";
import { doorHeaders } from "@/in-process/open-page";
import { mirrorPattern } from "@/server/mirror-address";
import { sharedOrigin, siteLookOrigin } from "@/server/look-origins";

/** The names under which the workbench is reached: that of MIRADA_ORIGIN, and further ones in MIRADA_HOSTS, parted by commas. */
const workbenchHosts = [
  "localhost",
  "127.0.0.1",
  "[::1]",
  ...(process.env.MIRADA_ORIGIN ? [new URL(process.env.MIRADA_ORIGIN).hostname] : []),
  ...(process.env.MIRADA_HOSTS ?? "").split(",").filter(Boolean),
];

/** Screens that stood at the top before there were several sites. */
const oldScreens =
  /^\/(library|popups|redirects|offers|lenses|audiences|places|markers|links|arrivals|sheet|checks|findings|traffic|releases|results|caching|settings|connect|people|audit|exchange)$/;

/** What every request of the workbench meets: the name by which it is asked, and the policy of its pages. */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  const host = request.headers.get("x-forwarded-host") ?? request.headers.get("host") ?? "localhost";
  const [, hostname = ""] = /^(\[[^\]]*\]|[^:]*)(?::(\d+))?$/.exec(host.toLowerCase()) ?? [];
  const { pathname, search } = request.nextUrl;
  const headers = new Headers(request.headers);
  for (const name of doorHeaders) headers.delete(name);
  const shared = /^\/shared\/([A-Za-z0-9_-]{24})$/.exec(pathname)?.[1];
  // Under another name (a rebound one, say) nothing of the workbench is there; shared lenses are seen under any.
  if (!workbenchHosts.includes(hostname) && !/^\/shared\//.test(pathname))
    return new NextResponse("The workbench is not served under this name.\n", { status: 421 });
  if (oldScreens.test(pathname)) {
    // Within the host that is asked for the framework makes it relative: a proxy in front may speak another protocol.
    const query = new URLSearchParams({ to: `${pathname}${search}` }).toString();
    return NextResponse.redirect(new URL(`/?${query}`, `http://${host}`));
  }
  const site = /^\/s\/([^/]+)\//.exec(pathname)?.[1];
  const looked = shared ? await sharedOrigin(shared) : site ? await siteLookOrigin(site) : undefined;
  const at = looked === undefined ? "" : ` ${reachableFrom(looked, hostname)}`;
  // Of a site's mirror, too, whose name is found out only by looking.
  const mirrors = looked === undefined ? "" : ` ${mirrorPattern()}`;
  const csp = policy(headers, {
    "img-src": `'self' data: blob: https:${at}`,
    "frame-src": `'self'${at}${mirrors}`,
    // An access log that came with the site lies there.
    "connect-src": `'self'${at}`,
    "frame-ancestors": "'none'",
    "worker-src": "'self' blob:",
  });
  headers.set("x-mirada-path", `${pathname}${search}`);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("content-security-policy", csp);
  response.headers.set("x-content-type-options", "nosniff");
  // The page in a shared lens's frame is told by which origin it is framed.
  response.headers.set("referrer-policy", shared ? "strict-origin" : "same-origin");
  return response;
}

export const config = { matcher: ["/((?!_next/static|_next/image|favicon.ico|icon.svg).*)"] };
