import { t } from "@/core/messages/t";
import * as z from "zod";
import { unstorable, unstorableWords } from "@/core/formats/storable";
import { clientAddress, readBlocks } from "@/delivery/client-address";
import { isOwnRequest, keepSession } from "@/server/session";
import { join, signIn } from "@/server/people";
import { setUp } from "@/server/set-up";
import { newSiteSchema } from "@/server/sites";

const entering = z.union([
  z.strictObject({ email: z.string().max(200), password: z.string().max(200) }),
  z.strictObject({
    token: z.string().max(60),
    name: z.string().max(80),
    email: z.string().max(200),
    password: z.string().max(200),
  }),
  z.strictObject({
    setUp: z.string().max(60),
    name: z.string().max(80),
    email: z.string().max(200),
    password: z.string().max(200),
    site: newSiteSchema,
  }),
]);

/** Proxies in front of the workbench whose X-Forwarded-For is believed: addresses or blocks, parted by commas. */
const trustedProxies = readBlocks((process.env.MIRADA_TRUSTED_PROXIES ?? "").split(",").filter(Boolean));

/** Signs in by address and password, takes up an invitation, or sets the installation up. A new session every time: one that was planted is worth nothing. */
export async function POST(request: Request): Promise<Response> {
  if (!isOwnRequest(request)) return Response.json({ problem: t("Only from the sign-in page.") }, { status: 403 });
  const told: unknown = await request.json().catch(() => undefined);
  const odd = unstorable(told);
  if (odd !== undefined) return Response.json({ problem: `${odd.slice(1)} ${unstorableWords}.` }, { status: 422 });
  const read = entering.safeParse(told);
  if (!read.success) return Response.json({ problem: t("Please fill in every field.") }, { status: 422 });
  const browser = request.headers.get("user-agent") ?? "";
  const input = read.data;
  const network = clientAddress(
    request.headers.get("x-mirada-peer") ?? undefined,
    request.headers.get("x-mirada-forwarded") ?? undefined,
    trustedProxies,
  );
  if ("setUp" in input) {
    const { setUp: token, site, ...newcomer } = input;
    const done = await setUp(token, newcomer, site, browser);
    if (!done.ok) return Response.json({ problem: done.problem, field: done.field }, { status: done.status });
    await keepSession(done.session);
    return Response.json({ site: done.site });
  }
  const done =
    "token" in input
      ? await join(input.token, input, network ?? "", browser)
      : await signIn(input.email, input.password, network ?? "", browser);
  if (!done.ok) return Response.json({ problem: done.problem }, { status: done.status });
  await keepSession(done.session);
  return new Response(null, { status: 204 });
}
