import { makeMetrics, type Metrics } from "./metrics";

const shared = globalThis as { miradaMetrics?: Metrics };

/** The figures of this process, for Prometheus: to this machine alone. For processes that have a front of their own. */
export async function localMetrics(request: Request): Promise<Response> {
  const peer = request.headers.get("x-mirada-peer") ?? "";
  // What a proxy on this machine hands on comes from elsewhere.
  const handedOn = request.headers.has("x-mirada-forwarded");
  if (handedOn || !/^(::1|(::ffff:)?127\.\d+\.\d+\.\d+)$/.test(peer)) return new Response(null, { status: 404 });
  const { registry } = (shared.miradaMetrics ??= makeMetrics());
  return new Response(await registry.metrics(), { headers: { "content-type": registry.contentType } });
}
