import { t } from "@/core/messages/t";
import { readFile } from "node:fs/promises";
import { largestArchive } from "@/core/exchange/archive";
import { makeArchive, takeArchive } from "@/server/archive";
import { currentPerson, isOwnRequest } from "@/server/session";
import { toDisk, TooLarge } from "@/server/upload";
import { nowText } from "@/clock";

interface Params {
  params: Promise<{ site: string }>;
}
const say = (status: number, body: object) => Response.json(body, { status });

/** Everything of the site, as one ZIP archive. */
export async function GET(_request: Request, { params }: Params): Promise<Response> {
  const who = await currentPerson((await params).site);
  if (!who) return say(401, { problem: t("You are not signed in, or your session has ended.") });
  const bytes = await makeArchive(who.site);
  if (!bytes) return say(404, { problem: t("There is no such site.") });
  const name = `${who.site}-${nowText().slice(0, 10)}.zip`;
  return new Response(bytes as BodyInit, {
    headers: { "content-type": "application/zip", "content-disposition": `attachment; filename="${name}"` },
  });
}

/** Takes an archive back in, as the raw body. */
export async function POST(request: Request, { params }: Params): Promise<Response> {
  if (!isOwnRequest(request)) return say(403, { problem: t("Only the workbench itself may send files here.") });
  const who = await currentPerson((await params).site);
  if (!who) return say(401, { problem: t("You are not signed in, or your session has ended.") });
  try {
    const done = await toDisk(request, largestArchive, async (path) => takeArchive(who, await readFile(path)));
    return say(done.ok ? 200 : 422, done);
  } catch (error) {
    if (!(error instanceof TooLarge)) throw error;
    return say(413, {
      problem: t("This archive is too large: at most {largestArchive} MB.", {
        largestArchive: largestArchive / 1024 / 1024,
      }),
    });
  }
}
