/** What is refused before anything reads it, on every port of the built product. */
import { spawn, type ChildProcess } from "node:child_process";
import { readFileSync } from "node:fs";
import http from "node:http";
import { connect } from "node:net";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { ruleset, site as plain } from "@/core/testing";
import { createSite } from "@/data/draft";
import { migrate } from "@/data/migrate";
import { allSites, pool, transaction } from "@/data/pool";
import { newPerson } from "./support";
import { hashPassword } from "@/server/people";
import { freePorts } from "../../scripts/lib/steps.mjs";
import { uniqueId } from "./support";

const site = uniqueId("door");
const password = "a password of the door";
let port = 0;
let server: ChildProcess;
/** The application's own process, by its parent. */
const memory = (): number => {
  const child = readFileSync(`/proc/${server.pid}/task/${server.pid}/children`, "utf8").trim().split(" ")[0];
  return Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${child}/status`, "utf8"))?.[1]) / 1024;
};

function ask(
  at: number,
  options: { method?: string; path: string; headers?: Record<string, string>; body?: Buffer },
): Promise<{ status: number; took: number }> {
  const began = performance.now();
  return new Promise((resolve, reject) => {
    const request = http.request(
      {
        host: "127.0.0.1",
        port: at,
        method: options.method ?? "GET",
        path: options.path,
        headers: { host: `localhost:${at}`, ...options.headers },
      },
      (response) => {
        response.resume();
        resolve({ status: response.statusCode ?? 0, took: performance.now() - began });
        response.on("error", () => undefined);
      },
    );
    // A refusal comes while the body is still being sent: what then breaks is the sending.
    request.on("error", (error: NodeJS.ErrnoException) =>
      error.code === "EPIPE" || error.code === "ECONNRESET"
        ? resolve({ status: 0, took: performance.now() - began })
        : reject(error),
    );
    request.end(options.body);
  });
}

describe("limits at the door", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) =>
      createSite({ ...ruleset({ site: { ...plain, id: site } }), library: [], picks: [] }, db),
    );
    await newPerson(site, "one", ["developer"], await hashPassword(password));
    port = await freePorts([1, 2, 3]);
    server = spawn("node", ["scripts/serve.mjs"], {
      env: { ...process.env, PORT: String(port) },
      stdio: ["ignore", "pipe", "inherit"],
    });
    await new Promise<void>((resolve, reject) => {
      server.stdout?.on("data", (text) => String(text).includes("ready on") && resolve());
      server.once("exit", () => reject(new Error("the server ended before it was ready: is it built?")));
    });
  }, 60_000);
  afterAll(async () => {
    server?.kill("SIGTERM");
    await new Promise((done) => server.once("exit", done));
    await pool().end();
  });

  it("a long query is refused on every port, and nobody waits for it", async () => {
    const long = `/?${"a=1&".repeat(16_000).slice(0, 14_000)}`;
    const many = `/?${Array(501).fill("a=1").join("&")}`;
    for (const at of [port, port + 1, port + 2])
      for (const path of [long, many]) expect([at, (await ask(at, { path })).status]).toEqual([at, 414]);
    expect((await ask(port, { path: `/health?${Array(500).fill("a=1").join("&")}` })).status).toBe(200);
    // 64 kB of address do not pass Node's own parser.
    expect([431, 0]).toContain((await ask(port, { path: `/?${"a=1&".repeat(16_000)}` })).status);
    expect((await ask(port, { path: "/health" })).status).toBe(200);
  });

  it("bodies of strangers are refused by their told length, and their bytes are not kept", async () => {
    const before = memory();
    const body = Buffer.alloc(100 * 1024 * 1024, "a");
    for (const path of [
      "/consent",
      "/happened",
      "/enter",
      `/s/${site}/place-files?name=x`,
      `/s/${site}/archive`,
      `/s/${site}/act/change`,
    ]) {
      const { status } = await ask(port, {
        method: "POST",
        path,
        body,
        headers: { "content-length": String(body.length) },
      });
      expect([path, [413, 0].includes(status)]).toEqual([path, true]);
    }
    expect(
      (await ask(port + 1, { method: "POST", path: "/v1/page", body, headers: { "content-type": "text/plain" } }))
        .status,
    ).toSatisfy((status: number) => [413, 0].includes(status));
    expect(memory() - before).toBeLessThan(150);
    // Without a told length nothing is read at all.
    const answer = await new Promise<string>((resolve) => {
      const socket = connect(port, "127.0.0.1", () =>
        socket.write("POST /enter HTTP/1.1\r\nHost: localhost\r\nTransfer-Encoding: chunked\r\n\r\n5\r\nhello\r\n"),
      );
      socket.once("data", (data) => resolve(String(data)));
    });
    expect(answer).toMatch(/^HTTP\/1\.1 411 /);
  });

  it("more may be sent on upload paths alone, and with a session alone", async () => {
    const entered = await fetch(`http://localhost:${port}/enter`, {
      method: "POST",
      headers: { "content-type": "application/json", origin: `http://localhost:${port}` },
      body: JSON.stringify({ email: `one@${site}.example`, password }),
    });
    const cookie = entered.headers.getSetCookie()[0]?.split(";")[0] ?? "";
    const csv = Buffer.from(
      `network,country\n${Array.from({ length: 6000 }, (_, i) => `10.${i >> 8}.${i & 255}.0/24,PT`).join("\n")}`,
    );
    expect(csv.length).toBeGreaterThan(65_536);
    const headers = { origin: `http://localhost:${port}`, "content-length": String(csv.length) };
    const send = (path: string, more: Record<string, string>) =>
      ask(port, { method: "POST", path, body: csv, headers: { ...headers, ...more } });
    expect((await send(`/s/${site}/place-files?name=own.csv`, { cookie })).status).toBe(200);
    expect((await send(`/s/${site}/place-files?name=own.csv`, { cookie: "mirada-desk=forged" })).status).toBe(413);
    expect((await send("/enter", { cookie })).status).toBe(413);
  });
});
