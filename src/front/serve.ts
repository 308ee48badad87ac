/**
 * A Next application as a process: what every request meets before the framework. The peer's address comes from the socket and
 * never from a header.
 */
import { isUrl } from "@/core/text/is-url";
import { createServer, type IncomingMessage, type ServerResponse, type Server } from "node:http";
import next from "next";
import type { EventQueue } from "@/delivery/events";
import { speakTo } from "@/server/speech";
import { refusalOf } from "./limits";

const titles = { 400: "Bad Request", 411: "Length Required", 413: "Content Too Large", 414: "URI Too Long" } as const;

/** Where it listens. */
export interface Place {
  host: string;
  port: number;
  /** Whether a request may pass here; without it every one may. */
  only?: (url: URL) => boolean;
  /** It is no matter if nothing can listen here; this is then said. */
  spare?: string;
}

interface Options {
  /** Its name, as its process says it. */
  name: string;
  port: number;
  /** The folder of the application. */
  folder: string;
  places: readonly Place[];
  /** Whether somebody is signed in, by the Cookie header: whoever is may send files. */
  isSignedIn: (cookies: string | undefined) => Promise<boolean>;
  /** Whether it speaks to whoever asks in their language. */
  speaks?: boolean;
  /** Done once it serves. @returns what is done when it ends */
  onServing?: () => () => Promise<void>;
}

/** Whether a request may pass where only some addresses are served: it only reads, and its path, dots resolved, is one of them. */
function mayPass(request: IncomingMessage, only: NonNullable<Place["only"]>): boolean {
  if (request.method !== "GET" && request.method !== "HEAD") return false;
  const url = request.url ?? "";
  return isUrl(url, "http://here") && only(new URL(url, "http://here"));
}

/** What a visitor says of its own address counts for nothing, unless the site's settings trust the peer that says it. */
function takeAddress(request: IncomingMessage): void {
  const forwarded = request.headers["x-forwarded-for"];
  for (const name of Object.keys(request.headers))
    if (/^(x-forwarded-|x-mirada-)|^(x-real-ip|forwarded)$/.test(name)) delete request.headers[name];
  request.headers["x-mirada-peer"] = request.socket.remoteAddress ?? "";
  if (forwarded) request.headers["x-mirada-forwarded"] = forwarded;
}

/** How it is routed inside is nobody's business, and with a long query would be a long header. */
function hideRouting(response: ServerResponse): void {
  const setHeader = response.setHeader.bind(response);
  response.setHeader = (name, value) =>
    name.toLowerCase().startsWith("x-middleware-") ? response : setHeader(name, value);
}

function refuse(response: ServerResponse, status: number, text: string): void {
  response.writeHead(status, { "content-type": "text/plain; charset=utf-8", connection: "close" }).end(`${text}\n`);
}

async function listen({ port, folder, places, isSignedIn, speaks }: Options): Promise<() => Promise<void>> {
  const app = next({ dev: false, hostname: "localhost", port, dir: folder });
  await app.prepare();
  const handle = app.getRequestHandler();

  async function answer(request: IncomingMessage, response: ServerResponse, only: Place["only"]): Promise<void> {
    const refusal = await refusalOf(request, () => isSignedIn(request.headers.cookie));
    if (refusal) return refuse(response, refusal, titles[refusal]);
    if (only && !mayPass(request, only)) return refuse(response, 404, "Not Found");
    takeAddress(request);
    hideRouting(response);
    await (speaks ? speakTo(request.headers, () => handle(request, response)) : handle(request, response));
  }

  const servers: Server[] = [];
  for (const { host, port: at, only, spare } of places) {
    const server = createServer((request, response) => {
      answer(request, response, only).catch((error: unknown) => {
        console.error(error);
        if (!response.headersSent) refuse(response, 500, "Internal Server Error");
        else response.destroy();
      });
    });
    // Uploads have their time; whoever sends a head byte by byte, or nothing, is let go.
    server.headersTimeout = 15_000;
    server.requestTimeout = 120_000;
    await new Promise<void>((resolve, reject) => {
      server.once("error", (error: NodeJS.ErrnoException) => {
        if (spare) console.warn(`${spare}: ${error.message}`);
        if (spare || (host === "::1" && error.code !== "EADDRINUSE")) resolve();
        else reject(error);
      });
      server.listen(at, host, resolve);
    });
    servers.push(server);
  }

  return async () => {
    // No new requests; those under way are answered (news lines never end by themselves, so they are cut), events are written.
    const closed = Promise.all(servers.map((server) => new Promise((done) => server.close(done))));
    for (const server of servers) server.closeIdleConnections();
    await Promise.race([closed, new Promise((done) => setTimeout(done, 1500))]);
    for (const server of servers) server.closeAllConnections();
    await (globalThis as { miradaEvents?: EventQueue }).miradaEvents?.drain(5000);
    await Promise.race([app.close(), new Promise((done) => setTimeout(done, 1500))]);
  };
}

/** Serves until it is told to end; then what is under way is answered first. */
export async function serve(options: Options): Promise<void> {
  const stop = await listen(options);
  console.log(`${options.name} ready on ${options.port}`);
  const leave = options.onServing?.();
  // "disconnect": whoever started it is gone, and nobody could stop it later.
  for (const end of ["SIGINT", "SIGTERM", "disconnect"])
    process.once(end, () => void Promise.all([stop(), leave?.()]).finally(() => process.exit(0)));
}
