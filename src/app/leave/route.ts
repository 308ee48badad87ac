import { endSession } from "@/data/sessions";
import { currentPerson, dropSession, isOwnRequest } from "@/server/session";

/** Signs out: the session ends in the database, whatever becomes of the cookie. */
export async function POST(request: Request): Promise<Response> {
  if (!isOwnRequest(request)) return Response.json({ problem: "Only from the workbench itself." }, { status: 403 });
  const who = await currentPerson();
  if (who) await endSession(who.site, who.session);
  await dropSession();
  return new Response(null, { status: 204 });
}
