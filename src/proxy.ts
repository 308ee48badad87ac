import { NextResponse, type NextRequest } from "next/server";

/** Sites that are served here beside the workbench, each on its own host name: `NAME.localhost`. */
const sites = ["brackenfold"];
export const sessionCookie = "mirada-session";

/** Routes by host name: the workbench's origin never serves a site's pages, and the other way round. */
export function proxy(request: NextRequest): NextResponse {
  const host = request.headers.get("x-forwarded-host") ?? request.headers.get("host") ?? "localhost";
  const [hostname = "", port] = host.toLowerCase().split(":");
  const { pathname, search } = request.nextUrl;
  const headers = new Headers(request.headers);
  for (const name of ["x-mirada-search", "x-mirada-workbench"]) headers.delete(name);

  const site = sites.find((name) => hostname === `${name}.localhost`);
  if (site) {
    const workbench = `http://localhost${port ? `:${port}` : ""}`;
    headers.set("x-mirada-search", search);
    headers.set("x-mirada-workbench", workbench);
    const target = request.nextUrl.clone();
    target.pathname = `/sites/${site}${pathname}`;
    const response = NextResponse.rewrite(target, { request: { headers } });
    response.headers.set(
      "content-security-policy",
      `frame-ancestors ${workbench}; object-src 'none'; base-uri 'self'; form-action 'self'`,
    );
    response.headers.set("x-content-type-options", "nosniff");
    response.headers.set("referrer-policy", "strict-origin-when-cross-origin");
    return response;
  }
  if (hostname.endsWith(".localhost") || pathname === "/sites" || pathname.startsWith("/sites/"))
    return new NextResponse("There is no such page here.\n", { status: 404 });
  const response = NextResponse.next({ request: { headers } });
  response.headers.set(
    "content-security-policy",
    "frame-ancestors 'none'; object-src 'none'; base-uri 'self'; form-action 'self'",
  );
  response.headers.set("x-content-type-options", "nosniff");
  response.headers.set("referrer-policy", "same-origin");
  if (!request.cookies.has(sessionCookie))
    response.cookies.set(sessionCookie, Buffer.from(crypto.getRandomValues(new Uint8Array(18))).toString("base64url"), {
      httpOnly: true,
      sameSite: "lax",
      path: "/",
    });
  return response;
}

export const config = { matcher: ["/((?!_next/static|_next/image|brackenfold/|favicon.ico|icon.svg).*)"] };
