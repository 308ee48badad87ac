import { t } from "@/core/messages/t";
import { addPlaces } from "@/server/place-files";
import { mayAs, refusal } from "@/core/people/roles";
import { currentPerson, isOwnRequest } from "@/server/session";
import { toDisk, TooLarge } from "@/server/upload";

interface Params {
  params: Promise<{ site: string }>;
}
const largest = 300 * 1024 * 1024;

/** Takes an upload of place data (MMDB or CSV) as the raw body; `name` is the file's. Answers what it holds, or what is wrong. */
export async function POST(request: Request, { params }: Params): Promise<Response> {
  const say = (status: number, body: object) => Response.json(body, { status });
  if (!isOwnRequest(request)) return say(403, { problem: t("Only the workbench itself may send files here.") });
  const who = await currentPerson((await params).site);
  if (!who) return say(401, { problem: t("You are not signed in, or your session has ended.") });
  if (!mayAs(who, "build")) return say(403, { problem: refusal(who.roles, "build") });
  const { searchParams } = new URL(request.url);
  try {
    const done = await toDisk(request, largest, (path) => addPlaces(who, searchParams.get("name") ?? "", path));
    return say(done.ok ? 200 : 422, done);
  } catch (error) {
    if (error instanceof TooLarge) return say(413, { problem: t("This file is too large: at most 300 MB.") });
    throw error;
  }
}
