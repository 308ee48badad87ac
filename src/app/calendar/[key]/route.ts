import { siteCalendar } from "@/server/calendar";
import { site } from "@/server/site";

export const dynamic = "force-dynamic";

/** The calendar of what is live, for whoever knows its address: `/calendar/KEY.ics`. */
export async function GET(_request: Request, { params }: { params: Promise<{ key: string }> }): Promise<Response> {
  const text = await siteCalendar(site, (await params).key.replace(/\.ics$/, ""));
  if (text === undefined) return new Response("There is no such calendar.\n", { status: 404 });
  return new Response(text, {
    headers: {
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": `inline; filename="${site}.ics"`,
      "cache-control": "private, max-age=300",
    },
  });
}
