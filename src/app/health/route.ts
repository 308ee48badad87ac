/** The process runs. */
export const GET = (): Response => Response.json({ ok: true });
export const dynamic = "force-dynamic";
