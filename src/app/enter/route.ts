import { z } from "zod";
import { deliverySettings } from "@/data/delivery";
import { clientAddress, readBlocks } from "@/delivery/client-address";
import { site } from "@/server/site";
import { isOwnRequest, keepSession } from "@/server/session";
import { join, signIn } from "@/server/people";

const entering = z.union([
  z.strictObject({ email: z.string().max(200), password: z.string().max(200) }),
  z.strictObject({
    token: z.string().max(60),
    name: z.string().max(80),
    email: z.string().max(200),
    password: z.string().max(200),
  }),
]);

/** Signs in by address and password, or takes up an invitation. A new session every time: one that was planted is worth nothing. */
export async function POST(request: Request): Promise<Response> {
  if (!isOwnRequest(request)) return Response.json({ problem: "Only from the sign-in page." }, { status: 403 });
  const read = entering.safeParse(await request.json().catch(() => undefined));
  if (!read.success) return Response.json({ problem: "Please fill in every field." }, { status: 422 });
  const browser = request.headers.get("user-agent") ?? "";
  const input = read.data;
  const { trustedProxies } = await deliverySettings(site);
  const network = clientAddress(
    request.headers.get("x-mirada-peer") ?? undefined,
    request.headers.get("x-mirada-forwarded") ?? undefined,
    readBlocks(trustedProxies),
  );
  const done =
    "token" in input
      ? await join(input.token, input, browser)
      : await signIn(input.email, input.password, network ?? "", browser);
  if (!done.ok) return Response.json({ problem: done.problem }, { status: done.status });
  await keepSession(done.session);
  return new Response(null, { status: 204 });
}
