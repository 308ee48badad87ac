import { t } from "@/core/messages/t";
import { endSession } from "@/data/sessions";
import { currentAccount, dropSession, isOwnRequest } from "@/server/session";

/** Signs out: the session ends in the database, whatever becomes of the cookie. */
export async function POST(request: Request): Promise<Response> {
  if (!isOwnRequest(request)) return Response.json({ problem: t("Only from the workbench itself.") }, { status: 403 });
  const account = await currentAccount();
  if (account) await endSession(account.session);
  await dropSession();
  return new Response(null, { status: 204 });
}
