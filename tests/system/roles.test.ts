/** Who may do what, over HTTP: every action × every role, and the ways in. Asks the application as it is built. */
import { randomUUID } from "node:crypto";
import { spawn, type ChildProcess } from "node:child_process";
import { freePorts } from "../../scripts/lib/steps.mjs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { mayDo, roles, type Ability, type Role } from "@/core/people/roles";
import { ruleset, site as plain } from "@/core/testing";
import { createSite } from "@/data/draft";
import { migrate } from "@/data/migrate";
import { accountByEmail } from "@/data/accounts";
import { allSites, pool, transaction } from "@/data/pool";
import { readSite } from "@/data/sites";
import { listLenses, saveLens } from "@/data/lenses";
import { makePass, makeShare, readPass, readShare } from "@/data/passes";
import { listPeople } from "@/data/people";
import { listSessions } from "@/data/sessions";
import { bySession, newPerson, somebody, uniqueId } from "./support";
import { actions } from "@/server/actions";
import { changePassword, hashPassword, signIn } from "@/server/people";

const site = uniqueId("roles");
let port = 0;
let server: ChildProcess;
const password = "a sentence of its own";

interface Asked {
  status: number;
  body: { problem?: string } & Record<string, unknown>;
  cookie?: string;
  headers: Headers;
}
async function post(path: string, body: unknown, headers: Record<string, string> = {}): Promise<Asked> {
  const answer = await fetch(`http://localhost:${port}${path}`, {
    method: "POST",
    redirect: "manual",
    headers: { "content-type": "application/json", origin: `http://localhost:${port}`, ...headers },
    body: typeof body === "string" ? body : JSON.stringify(body),
  });
  const text = await answer.text();
  const cookie = answer.headers.getSetCookie()[0]?.split(";")[0];
  let read: Asked["body"] = {};
  try {
    read = JSON.parse(text) as Asked["body"];
  } catch {
    // No JSON: nothing to read.
  }
  return { status: answer.status, body: read, headers: answer.headers, ...(cookie ? { cookie } : {}) };
}
const enter = (who: string, word = password) => post("/enter", { email: `${who}@${site}.example`, password: word });
const cookies = new Map<string, string>();
/** Another site of the same installation, with people of its own. */
const other = uniqueId("next-door");

describe("roles over HTTP", () => {
  beforeAll(async () => {
    await migrate();
    if (!(await readSite(site)))
      await transaction(allSites, (db) =>
        createSite({ ...ruleset({ site: { ...plain, id: site } }), library: [], picks: [] }, db),
      );
    await transaction(allSites, (db) =>
      createSite({ ...ruleset({ site: { ...plain, id: other } }), library: [], picks: [] }, db),
    );
    const hash = await hashPassword(password);
    for (const role of roles)
      if (!(await accountByEmail(`${role}@${site}.example`))) await newPerson(site, role, [role], hash);
    port = await freePorts([1, 2, 3]);
    server = spawn("node", ["scripts/serve.mjs"], {
      env: { ...process.env, PORT: String(port), MIRADA_ALONE: "1" },
      stdio: ["ignore", "pipe", "inherit"],
    });
    await new Promise<void>((resolve, reject) => {
      server.stdout?.on("data", (text) => String(text).includes("ready on") && resolve());
      server.once("exit", () => reject(new Error("the server ended before it was ready: is it built?")));
    });
    for (const role of roles) cookies.set(role, (await enter(role)).cookie ?? "");
  }, 60_000);
  afterAll(async () => {
    server?.kill("SIGTERM");
    await pool().end();
  });

  const names = Object.keys(actions) as (keyof typeof actions)[];
  it.each(names)("%s is answered as each role may", async (name) => {
    const needs = (actions[name] as { needs: Ability | "signed in" }).needs;
    // Arguments that no action takes: whoever may is told that they are not understood, everybody else is not let so far.
    const nonsense = [{ no: "such argument" }, 1, 2, 3, 4];
    for (const role of roles) {
      const answer = await post(`/s/${site}/act/${name}`, nonsense, { cookie: cookies.get(role) ?? "" });
      const may = needs === "signed in" || mayDo([role as Role], needs);
      expect([name, role, answer.status]).toEqual([name, role, may ? 422 : 403]);
      expect(answer.body.problem).toBeTruthy();
    }
    expect((await post(`/s/${site}/act/${name}`, nonsense)).status).toBe(401);
    expect(
      (
        await post(`/s/${site}/act/${name}`, nonsense, {
          cookie: cookies.get("author") ?? "",
          origin: "http://evil.example",
        })
      ).status,
    ).toBe(403);
    expect(
      (
        await post(`/s/${site}/act/${name}`, nonsense, {
          cookie: cookies.get("author") ?? "",
          "content-type": "text/plain",
        })
      ).status,
    ).toBe(403);
  });

  it.each(names)("%s is answered to nobody of another site, whatever they are there", async (name) => {
    for (const role of roles) {
      const answer = await post(`/s/${other}/act/${name}`, [], { cookie: cookies.get(role) ?? "" });
      expect([name, role, answer.status, answer.body.problem]).toEqual([
        name,
        role,
        403,
        "You are none of the people of this site.",
      ]);
    }
  });

  it("no other address of another site says anything to them, not even whether there is one", async () => {
    const cookie = cookies.get("developer") ?? "";
    for (const place of [other, "no-such-site"]) {
      const get = async (path: string) =>
        (await fetch(`http://localhost:${port}/s/${place}${path}`, { redirect: "manual", headers: { cookie } })).status;
      expect([place, await get("/pages"), await get("/people"), await get("/news"), await get("/archive")]).toEqual([
        place,
        404,
        404,
        401,
        401,
      ]);
      for (const path of ["/archive", "/place-files?name=x.csv"])
        expect((await post(`/s/${place}${path}`, {}, { cookie })).status).toBe(401);
    }
  });

  it("ids, passes, links and sessions of one site are worth nothing on another", async () => {
    const own = { cookie: cookies.get("developer") ?? "" };
    const visit = { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" };
    const foreign = await somebody(other, "neighbour");
    const pass = await makePass(other, foreign.session, { visit, source: "draft", pins: {} });
    const share = await makeShare(
      other,
      { session: foreign.session, madeBy: foreign.id },
      { visit, source: "draft", pins: {} },
      "Ours",
      60,
    );
    await saveLens(other, { id: "theirs", name: "Theirs", visit, steps: [] });
    expect(await readPass(site, pass)).toBeUndefined();
    expect((await post(`/s/${site}/act/unshare`, [share], own)).status).toBe(204);
    expect(await readShare(share)).toMatchObject({ site: other });
    await post(`/s/${site}/act/dropLens`, ["theirs"], own);
    expect((await listLenses(other)).map((lens) => lens.id)).toEqual(["theirs"]);
    const ended = await post(`/s/${site}/act/endSession`, [foreign.session], own);
    expect([ended.status, ended.body]).toEqual([200, "There is no such session."]);
    expect((await listSessions(other)).some((row) => row.id === foreign.session)).toBe(true);
    const people = await post(`/s/${site}/act/setRoles`, [foreign.id, ["author"]], own);
    expect(people.status).toBe(200);
    expect((await listPeople(other)).find((one) => one.id === foreign.id)?.roles).toHaveLength(4);
    // Whoever invites to several sites keeps the people of all of them.
    expect((await post(`/s/${site}/act/invite`, ["Sam", ["author"], [other]], own)).status).toBe(403);
  });

  it("edits of the draft are judged one by one, on the server", async () => {
    const rename = [{ do: "set", at: ["site", "name"], before: "Shop", after: "Taken over" }];
    for (const role of roles) {
      const answer = await post(`/s/${site}/act/change`, ["Renamed", rename, randomUUID()], {
        cookie: cookies.get(role) ?? "",
      });
      expect([role, answer.body.ok]).toEqual([role, role === "developer"]);
      if (role !== "developer") expect(answer.body.problem).toContain("are a developer’s");
      else await post(`/s/${site}/act/undo`, [], { cookie: cookies.get(role) ?? "" });
    }
  });

  it("every other route asks who it is, too", async () => {
    const get = (path: string, cookie = "") =>
      fetch(`http://localhost:${port}${path}`, { redirect: "manual", headers: { cookie } });
    for (const screen of ["pages", "releases", "people", "audit", "settings", "connect"]) {
      const path = `/s/${site}/${screen}`;
      const out = await get(path);
      expect([path, out.status, out.headers.get("location")]).toEqual([
        path,
        307,
        `/sign-in?next=${encodeURIComponent(path)}`,
      ]);
      expect((await get(path, cookies.get("author"))).status).toBe(200);
    }
    expect((await get(`/s/${site}/news`)).status).toBe(401);
    for (const role of roles) {
      const sent = await fetch(`http://localhost:${port}/s/${site}/place-files?name=x.csv`, {
        method: "POST",
        headers: { origin: `http://localhost:${port}`, cookie: cookies.get(role) ?? "" },
        body: "no places",
      });
      expect([role, sent.status]).toEqual([role, role === "developer" ? 422 : 403]);
    }
    expect((await post(`/s/${site}/act/nothing`, [], { cookie: cookies.get("editor") ?? "" })).status).toBe(404);
    expect((await post(`/s/${site}/act/constructor`, [], { cookie: cookies.get("editor") ?? "" })).status).toBe(404);
    expect((await post(`/s/${site}/act/undo`, "{", { cookie: cookies.get("editor") ?? "" })).status).toBe(422);
  });

  it("a session is new with every sign-in, cannot be planted, and ends when it is ended", async () => {
    const planted = await post(
      "/enter",
      { email: `author@${site}.example`, password },
      { cookie: cookies.get("editor") ?? "" },
    );
    expect(planted.cookie).not.toBe(cookies.get("editor"));
    const header = planted.headers.getSetCookie()[0] ?? "";
    expect(header).toMatch(/HttpOnly/i);
    expect(header).toMatch(/SameSite=Lax/i);
    const cookie = planted.cookie ?? "";
    expect((await post(`/s/${site}/act/people`, [], { cookie })).status).toBe(200);
    for (const wrong of ["mirada-desk=nonsense", `${cookie.slice(0, -3)}abc`, "mirada-desk="])
      expect((await post(`/s/${site}/act/people`, [], { cookie: wrong })).status).toBe(401);
    expect((await post("/leave", {}, { cookie })).status).toBe(204);
    // The cookie is still the same; what it names has ended.
    expect((await post(`/s/${site}/act/people`, [], { cookie })).status).toBe(401);
  });

  it("an invitation makes one person with its roles, once", async () => {
    const developer = { cookie: cookies.get("developer") ?? "" };
    const answer = await fetch(`http://localhost:${port}/s/${site}/act/invite`, {
      method: "POST",
      headers: { "content-type": "application/json", origin: `http://localhost:${port}`, ...developer },
      body: JSON.stringify(["Somebody", ["author"], []]),
    });
    const token = ((await answer.json()) as string).split("/").at(-1) as string;
    const who = { token, name: "Somebody", email: "new@shop.example", password };
    expect((await post("/enter", { ...who, password: "short" })).body.problem).toContain("10 characters");
    expect((await post("/enter", { ...who, email: "no address" })).status).toBe(422);
    // Somebody's own address is taken up by their password alone.
    expect(
      (await post("/enter", { ...who, email: `EDITOR@${site}.example`, password: "not the editor’s" })).status,
    ).toBe(401);
    const joined = await post("/enter", who);
    expect(joined.status).toBe(204);
    expect((await post("/enter", { ...who, email: "second@shop.example" })).status).toBe(404);
    expect((await post(`/s/${site}/act/askSecondPerson`, [true], { cookie: joined.cookie ?? "" })).status).toBe(403);
    const people = await post(`/s/${site}/act/people`, [], developer);
    const id = (people.body.people as { name: string; id: string }[]).find((one) => one.name === "Somebody")?.id;
    await post(`/s/${site}/act/letGo`, [id, true], developer);
    // Whoever was let go has an account still, and sees nothing of the site.
    expect((await post(`/s/${site}/act/people`, [], { cookie: joined.cookie ?? "" })).status).toBe(403);
  });

  it("somebody always keeps the people", async () => {
    const developer = { cookie: cookies.get("developer") ?? "" };
    const people = await post(`/s/${site}/act/people`, [], developer);
    const own = (people.body.people as { name: string; id: string }[]).find((one) => one.name === "developer")?.id;
    for (const [name, args] of [
      ["setRoles", [own, ["author"]]],
      ["letGo", [own, true]],
    ] as const) {
      const answer = await fetch(`http://localhost:${port}/s/${site}/act/${name}`, {
        method: "POST",
        headers: { "content-type": "application/json", origin: `http://localhost:${port}`, ...developer },
        body: JSON.stringify(args),
      });
      expect(await answer.json()).toEqual(expect.any(String));
    }
    expect((await post(`/s/${site}/act/people`, [], developer)).status).toBe(200);
  });

  it("guessing passwords is slowed down, whoever guesses and whether or not there is such a person", async () => {
    for (const who of ["approver", "nobody-here"]) {
      const seen = [];
      for (let count = 0; count < 9; count++) seen.push((await enter(who, "wrong wrong wrong")).status);
      expect([who, seen]).toEqual([who, [...Array(8).fill(401), 429]]);
    }
    // Even the right one waits now, from here: from elsewhere the person is not locked out by whoever guessed.
    expect((await enter("approver")).status).toBe(429);
    expect((await enter("editor")).status).toBe(204);
    const elsewhere = await signIn(`approver@${site}.example`, password, "198.51.100.7", "a test");
    expect(elsewhere.ok).toBe(true);
    // Sixty at once are no more than sixty after one another.
    const at = "203.0.113.77";
    const guess = () => signIn(`sixty@${site}.example`, "wrong wrong wrong", at, "a test");
    const all = await Promise.all(Array.from({ length: 60 }, guess));
    expect(all.filter((one) => !one.ok && one.status === 401)).toHaveLength(8);
    // Nor is one's own password guessed by whoever has a session.
    const own = (await bySession(site, elsewhere.ok ? elsewhere.session : ""))!;
    const said = [];
    for (let count = 0; count < 9; count++)
      said.push(await changePassword(own, "wrong wrong wrong", "a new one for me"));
    expect(said.map((text) => /Too many/.test(text ?? ""))).toEqual([...Array<boolean>(8).fill(false), true]);
  });

  it("is not served under another name, and believes no header about its own", async () => {
    const raw = (headers: Record<string, string>) =>
      new Promise<{ status: number; location: string }>((resolve, reject) => {
        import("node:http").then(({ get }) =>
          get({ host: "127.0.0.1", port, path: "/", headers }, (response) => {
            response.resume();
            resolve({ status: response.statusCode ?? 0, location: response.headers.location ?? "" });
          }).on("error", reject),
        );
      });
    expect((await raw({ host: "rebound.example" })).status).toBe(421);
    expect((await raw({ host: `localhost:${port}`, "x-forwarded-host": "rebound.example" })).location).toBe(
      "/sign-in?next=%2F",
    );
    expect((await raw({ host: `localhost:${port}`, "x-mirada-path": "//evil.example" })).location).toBe(
      "/sign-in?next=%2F",
    );
  });
});
