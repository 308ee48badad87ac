import { quizLink } from "@/storefront/stand-ins/quiz";

/** Sends on to the shop, with the answers in the link. */
export function GET(request: Request): Response {
  const query = new URLSearchParams(request.headers.get("x-mirada-search") ?? "");
  const port = (request.headers.get("host") ?? "").split(":")[1];
  return new Response(null, {
    status: 303,
    headers: { location: quizLink(query, `http://brackenfold.localhost${port ? `:${port}` : ""}`) },
  });
}
