import { lensLink } from "../../../../../stand-ins/frame";
import { quizLink } from "../../../../../stand-ins/quiz";
import { standInHere } from "../../here";

/** Sends on to the shop, with the answers in the link; or to the workbench, to look at that arrival through a lens. */
export async function GET(): Promise<Response> {
  const { origin, search, shop, workbench } = await standInHere();
  const query = new URLSearchParams(search);
  const link = quizLink(query, shop);
  const url = new URL(link);
  const lens = lensLink(workbench, { target: `${url.pathname}${url.search}`, referrer: `${origin}/` });
  return new Response(null, { status: 303, headers: { location: query.get("lens") === "yes" ? lens : link } });
}
