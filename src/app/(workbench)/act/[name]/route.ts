import { mayDo, refusal } from "@/core/people/roles";
import { Refusal, type Action } from "@/server/act";
import { actions } from "@/server/actions";
import { isDatabaseAway } from "@/data/pool";
import { currentPerson, isOwnRequest } from "@/server/session";

const say = (status: number, problem: string): Response => Response.json({ problem }, { status });
const longest = 56_000_000;

/**
 * Everything that the workbench asks of the server: POST /act/NAME with the arguments as a JSON list. Answers the result (204:
 * nothing), or a problem in words: 401 nobody is signed in, 403 not from here or not one's to do, 404 no such action, 413 too
 * long, 422 not understood.
 */
export async function POST(request: Request, { params }: { params: Promise<{ name: string }> }): Promise<Response> {
  if (!isOwnRequest(request) || !request.headers.get("content-type")?.startsWith("application/json"))
    return say(403, "Only the workbench itself may ask for this.");
  let who: Awaited<ReturnType<typeof currentPerson>>;
  try {
    who = await currentPerson();
  } catch (error) {
    if (isDatabaseAway(error)) return say(503, "The database cannot be reached just now. Try again.");
    throw error;
  }
  if (!who) return say(401, "You are not signed in, or your session has ended.");
  const { name } = await params;
  if (!Object.hasOwn(actions, name)) return say(404, "There is no such action.");
  const { needs, args, run } = actions[name as keyof typeof actions] as unknown as Action<unknown[], unknown>;
  if (needs !== "signed in" && !mayDo(who.roles, needs)) return say(403, refusal(who.roles, needs));
  const text = await request.text();
  if (text.length > longest) return say(413, "This is too long, so nothing was changed.");
  let given: unknown;
  try {
    given = JSON.parse(text);
  } catch {
    return say(422, "This could not be understood, so nothing was changed.");
  }
  const read = args.safeParse(given);
  if (!read.success) return say(422, "This could not be understood, so nothing was changed.");
  try {
    const result = await run(who, ...read.data);
    return result === undefined ? new Response(null, { status: 204 }) : Response.json(result);
  } catch (error) {
    if (error instanceof Refusal) return say(error.status, error.message);
    if (isDatabaseAway(error)) return say(503, "The database cannot be reached just now. Try again.");
    throw error;
  }
}
