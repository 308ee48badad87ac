import { isOwnPage } from "@/in-process/open-page";
import { takeEvents, toldSchema } from "@/delivery/happened";

/** Takes events of the shop's own pages: from its own origin alone, in this process, and written in batches. */
export async function POST(request: Request): Promise<Response> {
  if (!isOwnPage(request)) return new Response(null, { status: 403 });
  const text = await request.text();
  if (text.length > 65_536) return new Response(null, { status: 413 });
  let told: unknown;
  try {
    told = JSON.parse(text);
  } catch {
    return new Response(null, { status: 400 });
  }
  const events = toldSchema.safeParse(told);
  if (!events.success) return new Response(null, { status: 400 });
  const status = await takeEvents("brackenfold", events.data, {
    peer: request.headers.get("x-mirada-peer") ?? undefined,
    forwarded: request.headers.get("x-mirada-forwarded") ?? undefined,
    userAgent: request.headers.get("user-agent") ?? undefined,
    acceptLanguage: request.headers.get("accept-language") ?? undefined,
  });
  return new Response(null, { status });
}
