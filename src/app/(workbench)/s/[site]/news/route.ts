import { beGone, beHere } from "@/data/sessions";
import { deskNews } from "@/server/news";
import { currentPerson } from "@/server/session";

export const dynamic = "force-dynamic";

/** How often a sign of life is given, in milliseconds: each also proves that the session is still open. */
interface Params {
  params: Promise<{ site: string }>;
}
const beat = 15_000;

/** Server-sent events: one whenever something of the desk has changed, for as long as the session lasts. */
export async function GET(request: Request, { params }: Params): Promise<Response> {
  const who = await currentPerson((await params).site);
  if (!who) return Response.json({ problem: "You are not signed in, or your session has ended." }, { status: 401 });
  const { site, session } = who;
  await beHere(site, session);
  const encoder = new TextEncoder();
  let stop = (): void => undefined;
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => {
        try {
          controller.enqueue(encoder.encode(text));
        } catch {
          stop();
        }
      };
      const unsubscribe = deskNews().subscribe(site, () => send("event: news\ndata: \n\n"));
      const timer = setInterval(() => {
        send(": still here\n\n");
        beHere(site, session).then(
          (open) => open || stop(),
          () => undefined,
        );
      }, beat);
      stop = () => {
        clearInterval(timer);
        unsubscribe();
        stop = () => undefined;
        beGone(site, session).catch(() => undefined);
        try {
          controller.close();
        } catch {
          // It was closed by the other side.
        }
      };
      request.signal.addEventListener("abort", () => stop());
      send("retry: 2000\n\n");
    },
    cancel: () => stop(),
  });
  return new Response(body, {
    headers: {
      "content-type": "text/event-stream",
      "cache-control": "no-store, no-transform",
      "x-accel-buffering": "no",
    },
  });
}
