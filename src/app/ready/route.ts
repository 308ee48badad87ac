import { readiness } from "@/delivery/ready";

export const dynamic = "force-dynamic";

/** Visitors can be answered; and whether the database answers, and how many events wait. */
export async function GET(): Promise<Response> {
  const found = await readiness();
  return Response.json(found, { status: found.ready ? 200 : 503 });
}
