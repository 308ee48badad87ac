import { sharedTable } from "@/server/results";

/** What a link to results shows, as a CSV. */
export async function GET(request: Request, { params }: { params: Promise<{ name: string }> }): Promise<Response> {
  const csv = await sharedTable((await params).name, new URL(request.url).searchParams.get("goal") ?? "");
  if (csv === undefined) return new Response("This link has ended, or never was one.\n", { status: 404 });
  return new Response(csv, {
    headers: {
      "content-type": "text/csv; charset=utf-8",
      "content-disposition": 'attachment; filename="results.csv"',
      "cache-control": "no-store",
    },
  });
}
