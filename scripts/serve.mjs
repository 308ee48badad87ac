// Serves the built application on loopback: the workbench on localhost, its sites on NAME.localhost.
// A front of its own before Next, so that the peer's address comes from the socket and never from a header.
import { spawn } from "node:child_process";
import { createServer } from "node:http";
import { pathToFileURL } from "node:url";

/** Whether a request may pass where only some paths are served: it only reads, and its path, dots resolved, is one of them. */
function mayPass(request, only) {
  if (request.method !== "GET" && request.method !== "HEAD") return false;
  const url = request.url ?? "";
  return URL.canParse(url, "http://shared") && only.test(new URL(url, "http://shared").pathname);
}

/** Starts a delivery server as a process of its own. @returns a function that stops it, once what it holds is written */
export function startDelivery(port) {
  const folder = new URL("../.next/mirada/", import.meta.url).pathname;
  const child = spawn("node", [`${folder}delivery.mjs`], {
    env: { ...process.env, PORT: String(port), MIRADA_SCRIPT: `${folder}page.js` },
    stdio: ["ignore", "pipe", "inherit"],
  });
  return new Promise((resolve, reject) => {
    child.stdout.on("data", (text) => {
      if (String(text).includes("delivery ready"))
        resolve(
          () =>
            new Promise((stopped) => {
              if (child.exitCode !== null || child.signalCode !== null) return stopped();
              child.once("exit", stopped);
              child.kill("SIGTERM");
            }),
        );
    });
    child.once("exit", (code) => reject(new Error(`the delivery server ended before it was ready (${code})`)));
  });
}

/** Starts serving. @returns a function that stops it. */
export async function serve(port) {
  process.env.NODE_ENV = "production";
  process.env.NEXT_TELEMETRY_DISABLED = "1";
  const { default: next } = await import("next");
  const app = next({ dev: false, hostname: "localhost", port, dir: new URL("..", import.meta.url).pathname });
  await app.prepare();
  const handle = app.getRequestHandler();
  const servers = [];
  // Shared lenses alone are served to the network, on a port of their own: phones look at them there.
  const places = [
    { host: "127.0.0.1", at: port },
    { host: "::1", at: port },
    { host: "0.0.0.0", at: port + 2, only: /^\/(shared|_next\/static|brackenfold)\// },
  ];
  for (const { host, at, only } of places) {
    const server = createServer({ maxHeaderSize: 131_072 }, (request, response) => {
      if (only && !mayPass(request, only)) {
        response.writeHead(404).end();
        return;
      }
      // What a visitor says of its own address counts for nothing, unless the site's settings trust the peer that says it.
      const forwarded = request.headers["x-forwarded-for"];
      for (const name of Object.keys(request.headers))
        if (/^(x-forwarded-|x-mirada-)|^(x-real-ip|forwarded)$/.test(name)) delete request.headers[name];
      request.headers["x-mirada-peer"] = request.socket.remoteAddress ?? "";
      if (forwarded) request.headers["x-mirada-forwarded"] = forwarded;
      // How it is routed inside is nobody's business, and with a long query would be a long header.
      const setHeader = response.setHeader.bind(response);
      response.setHeader = (name, value) =>
        name.toLowerCase().startsWith("x-middleware-") ? response : setHeader(name, value);
      handle(request, response);
    });
    await new Promise((resolve, reject) => {
      server.once("error", (error) => {
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
    await globalThis.miradaEvents?.drain(5000);
    await app.close();
  };
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? "").href) {
  const port = Number(process.env.PORT ?? 4300);
  const stopDelivery = process.env.MIRADA_ALONE ? async () => undefined : await startDelivery(port + 1);
  const stopServing = await serve(port);
  const stop = () => Promise.all([stopServing(), stopDelivery()]);
  console.log(`ready on ${port}`);
  for (const signal of ["SIGINT", "SIGTERM"]) process.once(signal, () => void stop().finally(() => process.exit(0)));
}
