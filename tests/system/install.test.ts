/**
 * The installation guide, tried: its files and settings as they stand in docs/install.md, on an empty database, with nginx and TLS in
 * front; then two sites with two teams, side by side. What it cannot do in a test (making users of the system, enabling a service)
 * is left out; the unit is verified by systemd itself.
 */
import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import https from "node:https";
import { tmpdir } from "node:os";
import { dirname, join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { startPostgres } from "../../scripts/lib/postgres.mjs";
import { ensureDebian, freePorts, isFile } from "../../scripts/lib/steps.mjs";

const guide = readFileSync("docs/install.md", "utf8");
/** A file as the guide gives it. */
function fileOf(name: string): string {
  const [, text] = new RegExp(`\`\`\`\\w+ file=${name.replaceAll(".", "\\.")}\\n([\\s\\S]*?)\`\`\``).exec(guide) ?? [];
  if (text === undefined) throw new Error(`the guide has no file ${name}`);
  return text;
}
const settings = Object.fromEntries(
  fileOf("/etc/mirada.env")
    .trim()
    .split("\n")
    .map((line) => [line.slice(0, line.indexOf("=")), line.slice(line.indexOf("=") + 1)]),
);
const names = [settings.MIRADA_ORIGIN, settings.MIRADA_DELIVERY].map((origin) => new URL(origin as string).hostname);

const folder = mkdtempSync(join(tmpdir(), "mirada-install-"));
let database: Awaited<ReturnType<typeof startPostgres>>;
let service: ChildProcess;
let nginx: ChildProcess;
let port: number;
let tls: number;
let said = "";

interface Answer {
  status: number;
  headers: Record<string, string | string[] | undefined>;
  body: string;
}
/** Asks nginx over TLS by one of the guide's names, as a browser would, and trusting the made-up authority alone. */
const ask = (
  name: string,
  path: string,
  { method = "GET", body, headers = {} }: { method?: string; body?: unknown; headers?: Record<string, string> } = {},
): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const request = https.request(
      {
        host: "127.0.0.1",
        port: tls,
        servername: name,
        ca: readFileSync(join(folder, "fullchain.pem")),
        path,
        method,
        headers: { host: name, ...(body === undefined ? {} : { "content-type": "application/json" }), ...headers },
      },
      (response) => {
        let text = "";
        response.setEncoding("utf8");
        response.on("data", (part: string) => (text += part));
        response.on("end", () => resolve({ status: response.statusCode ?? 0, headers: response.headers, body: text }));
      },
    );
    request.on("error", reject);
    request.end(body === undefined ? undefined : JSON.stringify(body));
  });
const origin = settings.MIRADA_ORIGIN as string;
const [workbench, delivery] = names as [string, string];
const post = (path: string, body: unknown, cookie = "") =>
  ask(workbench, path, { method: "POST", body, headers: { origin, cookie } });
const cookieOf = (answer: Answer) => String([answer.headers["set-cookie"] ?? ""].flat()[0]).split(";")[0] ?? "";
const act = async (site: string, name: string, args: unknown[], cookie: string) => {
  const answer = await post(`/s/${site}/act/${name}`, args, cookie);
  return { status: answer.status, value: answer.body === "" ? undefined : (JSON.parse(answer.body) as unknown) };
};

beforeAll(async () => {
  await ensureDebian(["nginx-light", "openssl"], () => isFile("/usr/sbin/nginx") && isFile("/usr/bin/openssl"));
  database = await startPostgres("install", { reset: true, throwaway: true });
  port = await freePorts([1, 2, 3, 30]);
  tls = port + 30;
  // A certificate of one's own for both names.
  const made = spawnSync("openssl", [
    ..."req -x509 -newkey rsa:2048 -nodes -days 2 -subj /CN=mirada -keyout".split(" "),
    join(folder, "privkey.pem"),
    "-out",
    join(folder, "fullchain.pem"),
    "-addext",
    `subjectAltName=${[...names, "*.mirror.example.com"].map((name) => `DNS:${name}`).join(",")}`,
  ]);
  expect(made.status).toBe(0);
  // The guide's nginx file, with this test's ports and folder.
  const site = fileOf("/etc/nginx/sites-available/mirada")
    .replaceAll("/etc/ssl/mirada", folder)
    .replaceAll("listen 443", `listen 127.0.0.1:${tls}`)
    .replaceAll("127.0.0.1:4300", `127.0.0.1:${port}`)
    .replaceAll("127.0.0.1:4301", `127.0.0.1:${port + 1}`)
    .replaceAll("127.0.0.1:4303", `127.0.0.1:${port + 3}`);
  const conf = join(folder, "nginx.conf");
  const parts = ["client_body", "proxy", "fastcgi", "uwsgi", "scgi"];
  writeFileSync(
    conf,
    `daemon off; pid ${folder}/nginx.pid; error_log ${folder}/error.log; worker_processes 1;
events {}
http { access_log off; ${parts.map((part) => `${part}_temp_path ${folder}/${part};`).join(" ")}\n${site} }\n`,
  );
  const tested = spawnSync("/usr/sbin/nginx", ["-t", "-c", conf, "-e", join(folder, "error.log")], {
    encoding: "utf8",
  });
  expect([tested.status, tested.stderr]).toEqual([0, expect.stringContaining("test is successful")]);
  nginx = spawn("/usr/sbin/nginx", ["-c", conf, "-e", join(folder, "error.log")], { stdio: "ignore" });
  const { ExecStart: start = "" } = Object.fromEntries(
    fileOf("/etc/systemd/system/mirada.service")
      .split("\n")
      .filter((line) => line.includes("="))
      .map((line) => [line.slice(0, line.indexOf("=")), line.slice(line.indexOf("=") + 1)]),
  );
  service = spawn(process.execPath, start.split(" ").slice(1), {
    env: { ...process.env, ...settings, DATABASE_URL: database.url, PORT: String(port) },
    stdio: ["ignore", "pipe", "pipe"],
  });
  await new Promise<void>((resolve, reject) => {
    for (const stream of [service.stdout, service.stderr])
      stream?.on("data", (text) => {
        said += String(text);
        if (said.includes("Ctrl-C stops it")) resolve();
      });
    service.once("exit", () => reject(new Error(`it ended before it was ready: ${said}`)));
  });
}, 180_000);
afterAll(async () => {
  nginx?.kill("SIGTERM");
  service?.kill("SIGTERM");
  await new Promise((done) => (service ? service.once("exit", done) : done(undefined)));
  database?.stop();
  rmSync(folder, { recursive: true, force: true });
}, 60_000);

describe("installed by the guide", () => {
  it("the mirror answers under its names, and shows nothing to whoever only guesses one", async () => {
    expect((await ask("any.mirror.example.com", "/~mirada/health")).body).toBe("ok\n");
    expect((await ask(`${"a".repeat(24)}.mirror.example.com`, "/")).status).toBe(421);
  });

  it("the start installs no packages that npm ci has installed, and those that are missing or older", () => {
    const copy = mkdtempSync(join(tmpdir(), "mirada-packages-"));
    try {
      const write = (file: string, version: string) => {
        mkdirSync(dirname(join(copy, file)), { recursive: true });
        writeFileSync(
          join(copy, file),
          JSON.stringify({
            packages: { "": {}, "node_modules/a": { version }, "node_modules/b": { version: "1.0.0", optional: true } },
          }),
        );
      };
      cpSync("scripts/lib", join(copy, "scripts/lib"), { recursive: true });
      write("package-lock.json", "1.0.1");
      const ensured = () =>
        spawnSync(
          process.execPath,
          ["-e", 'import("./scripts/lib/steps.mjs").then((steps) => steps.ensurePackages())'],
          // There is no npm to be found: whatever would be installed fails.
          { cwd: copy, encoding: "utf8", env: { ...process.env, PATH: "" } },
        );
      write("node_modules/.package-lock.json", "1.0.0");
      expect(ensured().stdout).toContain("Installing npm packages");
      rmSync(join(copy, "node_modules.installing"), { force: true });
      write("node_modules/.package-lock.json", "1.0.1");
      expect(ensured()).toMatchObject({ status: 0, stdout: "" });
      // An installation that was broken off is done anew, whatever it left.
      rmSync(join(copy, "node_modules/.mirada-lock"));
      writeFileSync(join(copy, "node_modules.installing"), "");
      expect(ensured().stdout).toContain("were not installed completely");
    } finally {
      rmSync(copy, { recursive: true, force: true });
    }
  });

  it("systemd finds nothing wrong with the unit", async () => {
    await ensureDebian(["systemd"], () => isFile("/usr/bin/systemd-analyze"));
    const unit = join(folder, "unit/mirada.service");
    mkdirSync(dirname(unit), { recursive: true });
    // The folder and the program of the guide are not on this machine; everything else is as it stands there.
    writeFileSync(
      unit,
      fileOf("/etc/systemd/system/mirada.service")
        .replace("/opt/mirada/app", process.cwd())
        .replace("/usr/bin/node", process.execPath),
    );
    const verified = spawnSync("systemd-analyze", ["verify", "--man=no", unit], { encoding: "utf8" });
    const about = verified.stderr.split("\n").filter((line) => line.includes("mirada.service"));
    expect([verified.status, about]).toEqual([0, []]);
  });

  const sites: Record<string, { cookie: string; secret: string }> = {};

  it("prints one link, by which the first person and the first site are made: once, and with everything said at its place", async () => {
    expect(said).not.toContain("may bypass row-level security");
    const [, token = ""] = new RegExp(`${origin}/set-up/([\\w-]{32})`).exec(said) ?? [];
    expect(token).not.toBe("");
    expect((await ask(workbench, "/sign-in")).body).toContain("has not been set up yet");
    expect((await ask(workbench, `/set-up/${token}`)).body).toContain("Your first site");
    const site = {
      name: "North",
      id: "",
      origin: "https://north.example",
      zone: "Europe/Lisbon",
      currency: "EUR",
      language: "en",
      copyOf: "",
    };
    const who = { setUp: token, name: "Admin", email: "admin@post.example", password: "a sentence for the test" };
    const wrong = async (more: object) => {
      const answer = await post("/enter", { ...who, site, ...more });
      return [answer.status, JSON.parse(answer.body) as { problem: string; field?: string }] as const;
    };
    expect(await wrong({ setUp: "another" })).toMatchObject([
      404,
      { problem: expect.stringContaining("used already") },
    ]);
    expect(await wrong({ password: "short" })).toMatchObject([
      422,
      { problem: expect.stringContaining("10 characters") },
    ]);
    expect(await wrong({ site: { ...site, origin: "north" } })).toMatchObject([422, { field: "origin" }]);
    // Nothing was made by all that, so it still goes.
    const done = await post("/enter", { ...who, site });
    expect([done.status, JSON.parse(done.body)]).toEqual([200, { site: "north" }]);
    const header = String([done.headers["set-cookie"]].flat()[0]);
    expect(header).toMatch(/; Secure/i);
    sites.north = { cookie: cookieOf(done), secret: "" };
    expect((await post("/enter", { ...who, email: "second@post.example", site })).status).toBe(404);
    expect((await ask(workbench, `/set-up/${token}`)).body).toContain("was used already");
    const opened = await ask(workbench, "/s/north/pages", { headers: { cookie: cookieOf(done) } });
    expect([opened.status, opened.body.includes("North")]).toEqual([200, true]);
  });

  it("has two sites with two teams, side by side, and neither sees the other", async () => {
    const admin = sites.north!.cookie;
    const made = await post(
      "/act/makeSite",
      [
        {
          name: "South",
          id: "",
          origin: "https://south.example",
          zone: "UTC",
          currency: "USD",
          language: "en",
          copyOf: "",
        },
      ],
      admin,
    );
    expect(JSON.parse(made.body)).toEqual({ ok: true, site: "south" });
    const invited = await act("south", "invite", ["Sam", ["author", "editor", "approver", "developer"], []], admin);
    const joined = await post("/enter", {
      token: String(invited.value).split("/").at(-1),
      name: "Sam",
      email: "sam@post.example",
      password: "another sentence here",
    });
    expect(joined.status).toBe(204);
    sites.south = { cookie: cookieOf(joined), secret: "" };
    const { cookie: sam } = sites.south;
    expect((await ask(workbench, "/s/south/pages", { headers: { cookie: sam } })).status).toBe(200);
    expect((await ask(workbench, "/s/north/pages", { headers: { cookie: sam } })).status).toBe(404);
    expect((await act("north", "people", [], sam)).status).toBe(403);
    expect((await post("/act/makeSite", [{}], sam)).status).toBe(403);
    const listed = JSON.parse((await post("/act/sites", [], sam)).body) as {
      sites: { id: string }[];
      accounts: unknown[];
    };
    expect([listed.sites.map((item) => item.id), listed.accounts]).toEqual([["south"], []]);
    for (const [site, cookie, says] of [
      ["north", admin, "Snow by Friday"],
      ["south", sam, "Sun all week"],
    ] as const) {
      const slot = {
        id: "notice",
        name: "Notice",
        pages: null,
        take: 1,
        fallback: null,
        variants: [
          {
            id: "v",
            name: "For everyone",
            on: true,
            rule: null,
            arms: [{ id: "a", weight: 100, content: { type: "notice", fields: { text: says }, tokens: {} } }],
          },
        ],
      };
      const news = await act(site, "news", [-1, ""], cookie);
      const changed = await act(
        site,
        "change",
        ["A slot", [{ do: "insert", list: ["slots"], index: 0, item: slot }], crypto.randomUUID()],
        cookie,
      );
      expect([site, changed.status, (changed.value as { ok?: boolean; problem?: string }).problem]).toEqual([
        site,
        200,
        undefined,
      ]);
      const { version } = (news.value as { draft: { version: number } }).draft;
      await act(site, "askSecondPerson", [false], cookie);
      const released = await act(
        site,
        "askForReview",
        [{ note: "", version: version + 1, reason: "the first", live: true }],
        cookie,
      );
      expect(released.value).toMatchObject({ ok: true, release: 1 });
      const key = await act(site, "makeKey", ["secret", "server"], cookie);
      sites[site]!.secret = (key.value as { key: string }).key;
    }
    const shown = async (secret: string, site: string) => {
      const answer = await ask(delivery, "/v1/decide", {
        method: "POST",
        body: { visit: { at: "2026-11-24T10:15:00Z", url: `https://${site}.example/` } },
        headers: { authorization: `Bearer ${secret}` },
      });
      return [answer.status, /"text":"([^"]*)"/.exec(answer.body)?.[1]];
    };
    // Release and key reach the delivery server by a notice.
    await expect.poll(() => shown(sites.north!.secret, "north"), { timeout: 10_000 }).toEqual([200, "Snow by Friday"]);
    await expect.poll(() => shown(sites.south!.secret, "south"), { timeout: 10_000 }).toEqual([200, "Sun all week"]);
    expect((await shown(sites.south!.secret.replace("_south_", "_north_"), "north"))[0]).toBe(401);
  });

  it("by command line, too: people, sites, keys; what is wrong is said in one line", () => {
    const mirada = (args: string[], password?: string) => {
      const done = spawnSync("node", ["node_modules/tsx/dist/cli.mjs", "src/cli/mirada.ts", ...args], {
        encoding: "utf8",
        env: {
          ...process.env,
          DATABASE_URL: database.url,
          ...(password === undefined ? {} : { MIRADA_PASSWORD: password }),
        },
      });
      return { code: done.status, out: done.stdout.trim(), error: done.stderr.trim() };
    };
    expect(mirada(["person", "add", "Wren", "wren@post.example"], "short")).toMatchObject({
      code: 2,
      error: expect.stringMatching(/^mirada: At least 10 characters/),
    });
    expect(mirada(["person", "add", "Wren", "wren@post.example"], "a sentence of wren")).toMatchObject({ code: 0 });
    expect(mirada(["person", "add", "Wren", "WREN@post.example"], "a sentence of wren")).toMatchObject({ code: 2 });
    const add = ["site", "add", "East", "https://east.example", "--owner"];
    expect(mirada([...add, "nobody@post.example"]).error).toContain("nobody has an account");
    expect(mirada([...add, "wren@post.example", "--zone", "Europe/Lisbon"])).toMatchObject({ code: 0 });
    expect(mirada([...add, "wren@post.example"]).error).toContain("id: There is a site east already");
    expect(mirada(["person", "role", "sam@post.example", "east", "author,king"]).error).toContain("roles are some of");
    expect(mirada(["person", "role", "sam@post.example", "east", "author"])).toMatchObject({ code: 0 });
    expect(mirada(["key", "add", "east", "public", "tag"]).out).toMatch(/^page_east_[0-9a-f]{24}$/);
    expect(mirada(["person", "administrator", "admin@post.example", "--no"]).error).toContain(
      "at least one administrator",
    );
    expect(mirada(["set-up-link", "https://x.example"])).toMatchObject({ code: 0, out: "" });
    expect(mirada(["site", "list"]).out.split("\n")).toHaveLength(3);
    expect(mirada(["site", "archive", "nowhere"]).error).toContain("no site nowhere");
    const elsewhere = (url: string) =>
      spawnSync("node", ["node_modules/tsx/dist/cli.mjs", "src/cli/mirada.ts", "site", "list"], {
        encoding: "utf8",
        env: { ...process.env, DATABASE_URL: url },
      }).stderr.trim();
    expect(elsewhere(database.url.replace("//", "//nobody-"))).toMatch(/^mirada: the database lets nobody in[^\n]*$/);
    expect(elsewhere(`${database.url}-not-there`)).toMatch(/^mirada: the database lets nobody in[^\n]*$/);
  }, 240_000);
});
