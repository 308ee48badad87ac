/**
 * The application as a process: the workbench and what is rendered here, before Next. PORT, DATABASE_URL and MIRADA_ROOT (the
 * project's folder) come from the environment. The peer's address comes from the socket and never from a header.
 */
import { createServer, type IncomingMessage, type ServerResponse, type Server } from "node:http";
import next from "next";
import type { EventQueue } from "@/delivery/events";
import { personOfCookies } from "@/server/sealed-session";
import { refusalByLength } from "./limits";

const port = Number(process.env.PORT ?? 4300);
const root = process.env.MIRADA_ROOT ?? process.cwd();
const titles = { 411: "Length Required", 413: "Content Too Large", 414: "URI Too Long" } as const;

/** Where it listens. Shared lenses alone are served to the network, on a port of their own: phones look at them there. */
interface Place {
  host: string;
  port: number;
  only?: RegExp;
}
const places: Place[] = [
  { host: "127.0.0.1", port },
  { host: "::1", port },
  { host: "0.0.0.0", port: port + 2, only: /^\/(shared|_next\/static|brackenfold)\// },
];

/** Whether a request may pass where only some paths are served: it only reads, and its path, dots resolved, is one of them. */
function mayPass(request: IncomingMessage, only: RegExp): boolean {
  if (request.method !== "GET" && request.method !== "HEAD") return false;
  const url = request.url ?? "";
  return URL.canParse(url, "http://shared") && only.test(new URL(url, "http://shared").pathname);
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

async function serve(): Promise<() => Promise<void>> {
  const app = next({ dev: false, hostname: "localhost", port, dir: root });
  await app.prepare();
  const handle = app.getRequestHandler();

  async function answer(request: IncomingMessage, response: ServerResponse, only: RegExp | undefined): Promise<void> {
    const refusal = await refusalByLength(request, async () => Boolean(await personOfCookies(request.headers.cookie)));
    if (refusal) return refuse(response, refusal, titles[refusal]);
    if (only && !mayPass(request, only)) return refuse(response, 404, "Not Found");
    takeAddress(request);
    hideRouting(response);
    await handle(request, response);
  }

  const servers: Server[] = [];
  for (const { host, port: at, only } of places) {
    const server = createServer((request, response) => {
      answer(request, response, only).catch((error: unknown) => {
        console.error(error);
        if (!response.headersSent) refuse(response, 500, "Internal Server Error");
        else response.destroy();
      });
    });
    await new Promise<void>((resolve, reject) => {
      server.once("error", (error: NodeJS.ErrnoException) => {
        if (only) console.warn(`Shared lenses cannot be reached from the network: ${error.message}`);
        if (only || (host === "::1" && error.code !== "EADDRINUSE")) resolve();
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
    await app.close();
  };
}

const stop = await serve();
console.log(`application ready on ${port}`);
// "disconnect": whoever started it is gone, and nobody could stop it later.
for (const end of ["SIGINT", "SIGTERM", "disconnect"])
  process.once(end, () => void stop().finally(() => process.exit(0)));
