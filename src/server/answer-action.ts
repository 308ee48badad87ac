import { t } from "@/core/messages/t";
import { unstorable, unstorableWords } from "@/core/formats/storable";
import { isDatabaseAway } from "@/data/pool";
import { Refusal, type Action } from "./act";
import { isOwnRequest } from "./session";

const say = (status: number, problem: string): Response => Response.json({ problem }, { status });
const longest = 56_000_000;

/** Who asks, and what keeps them from it. */
export interface Asked<Who> {
  /** Whoever is signed in; undefined: nobody, or the session has ended. A response: they may not be here at all. */
  who: () => Promise<Who | Response | undefined>;
  /** Why somebody may not do what an action needs; undefined: they may. */
  refusal: (who: Who, needs: Action<Who, unknown[], unknown>["needs"]) => string | undefined;
}

/**
 * Everything that the workbench asks of the server: POST …/act/NAME with the arguments as a JSON list. Answers the result (204:
 * nothing), or a problem in words: 401 nobody is signed in, 403 not from here or not one's to do, 404 no such action, 413 too
 * long, 422 not understood, 503 the database is away.
 */
export async function answerAction<Who>(
  request: Request,
  name: string,
  actions: Readonly<Record<string, unknown>>,
  asked: Asked<Who>,
): Promise<Response> {
  if (!isOwnRequest(request) || !request.headers.get("content-type")?.startsWith("application/json"))
    return say(403, t("Only the workbench itself may ask for this."));
  try {
    const who = await asked.who();
    if (!who) return say(401, t("You are not signed in, or your session has ended."));
    if (who instanceof Response) return who;
    if (!Object.hasOwn(actions, name)) return say(404, t("There is no such action."));
    const { needs, args, run } = actions[name] as Action<Who, unknown[], unknown>;
    const refused = asked.refusal(who, needs);
    if (refused) return say(403, refused);
    const text = await request.text();
    if (text.length > longest) return say(413, t("This is too long, so nothing was changed."));
    const told = parsed(text);
    const odd = unstorable(told);
    if (odd !== undefined)
      return say(
        422,
        t("{odd} {unstorableWords}. Nothing was changed.", {
          odd: odd || t("What was sent"),
          unstorableWords: unstorableWords(),
        }),
      );
    const read = args.safeParse(told);
    if (!read.success) return say(422, t("This could not be understood, so nothing was changed."));
    const result = await run(who, ...read.data);
    return result === undefined ? new Response(null, { status: 204 }) : Response.json(result);
  } catch (error) {
    if (error instanceof Refusal) return say(error.status, error.message);
    if (isDatabaseAway(error)) return say(503, t("The database cannot be reached just now. Try again."));
    throw error;
  }
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
