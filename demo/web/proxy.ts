import { NextResponse, type NextRequest } from "next/server";
import { doorHeaders, openPage } from "@/in-process/open-page";
import { policy } from "@/in-process/policy";
import { shopDoor } from "../shop/door";
import { standIns, workbench } from "./places";

/** Routes by host name: the shop and each stand-in have names of their own. */
export async function proxy(request: NextRequest): Promise<NextResponse> {
  const host = (request.headers.get("host") ?? "").toLowerCase();
  const [, name = "", port = ""] = /^(?:([a-z-]+)\.localhost|[^:]*|\[[^\]]*\])(:\d+)?$/.exec(host) ?? [];
  const headers = new Headers(request.headers);
  for (const header of doorHeaders) headers.delete(header);
  if (/^\/(sites|stand-ins)(\/|$)/.test(request.nextUrl.pathname))
    return new NextResponse("There is no such page here.\n", { status: 404 });
  // A phone on the network knows this machine by another name: shared lenses alone are seen there.
  if (name === "brackenfold" || (name === "" && request.nextUrl.searchParams.has("shared")))
    return openPage(request, shopDoor, headers);
  if (!standIns.includes(name)) return new NextResponse("There is no such site here.\n", { status: 404 });
  const target = request.nextUrl.clone();
  target.pathname = `/stand-ins/${name}${request.nextUrl.pathname}`;
  headers.set("x-mirada-search", request.nextUrl.search);
  // A form of theirs leads on to the shop, or to the workbench.
  const csp = policy(headers, { "form-action": `'self' http://brackenfold.localhost${port} ${workbench()}` });
  const response = NextResponse.rewrite(target, { request: { headers } });
  response.headers.set("content-security-policy", csp);
  // They tell where their visitors come from, as other people's sites do.
  response.headers.set("referrer-policy", "unsafe-url");
  response.headers.set("x-content-type-options", "nosniff");
  return response;
}

export const config = { matcher: ["/((?!_next/static|_next/image|brackenfold/|favicon.ico|icon.svg).*)"] };
