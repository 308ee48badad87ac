import { calendarByKey } from "@/server/calendar";

export const dynamic = "force-dynamic";

/** The calendar of what is live, for whoever knows its address: `/calendar/KEY.ics`. */
export async function GET(_request: Request, { params }: { params: Promise<{ key: string }> }): Promise<Response> {
  const found = await calendarByKey((await params).key.replace(/\.ics$/, ""));
  if (!found) return new Response("There is no such calendar.\n", { status: 404 });
  return new Response(found.text, {
    headers: {
      "content-type": "text/calendar; charset=utf-8",
      "content-disposition": `inline; filename="${found.site}.ics"`,
      "cache-control": "private, max-age=300",
    },
  });
}
