import { lensLink } from "@/storefront/stand-ins/frame";
import { quizLink } from "@/storefront/stand-ins/quiz";

/** Sends on to the shop, with the answers in the link; or to the workbench, to look at that arrival through a lens. */
export function GET(request: Request): Response {
  const query = new URLSearchParams(request.headers.get("x-mirada-search") ?? "");
  const port = (request.headers.get("host") ?? "").split(":")[1];
  const at = (name: string) => `http://${name}${port ? `:${port}` : ""}`;
  const link = quizLink(query, at("brackenfold.localhost"));
  const { pathname, search } = new URL(link);
  const lens = lensLink(at("localhost"), { target: `${pathname}${search}`, referrer: `${at("quiz.localhost")}/` });
  return new Response(null, { status: 303, headers: { location: query.get("lens") === "yes" ? lens : link } });
}
