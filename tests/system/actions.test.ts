/** What the workbench asks of the server, each action with what it does, what it refuses in words, and the line it leaves in the audit trail. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { ruleset, site, variant } from "@/core/testing";
import { readAudit } from "@/data/audit";
import { addPlaceFile, deliverySettings, listPlaceFiles } from "@/data/delivery";
import { createSite } from "@/data/draft";
import { migrate } from "@/data/migrate";
import { listLenses } from "@/data/lenses";
import { listChecks } from "@/data/checks";
import { listPages } from "@/data/pages";
import { readPass, readShare } from "@/data/passes";
import type { SignedIn } from "@/data/people";
import { allSites, pool, transaction } from "@/data/pool";
import { beginSession, listSessions } from "@/data/sessions";
import { actions, type ActionName } from "@/server/actions";
import { hashPassword } from "@/server/people";
import { bySession, newPerson, somebody, uniqueId } from "./support";

const id = uniqueId("actions");
const first = siteDraftSchema.parse(
  ruleset({ site: { ...site, id }, slots: [{ id: "s", name: "S", variants: [variant("a")] }] }),
);
let developer: SignedIn;
let author: SignedIn;

/** Asks as a browser does: arguments are read by the action's schema first. @throws ZodError if they are not understood */
const ask = async (name: ActionName, who: SignedIn, ...args: unknown[]): Promise<never> => {
  const { args: schema, run } = actions[name] as unknown as {
    args: { parse: (args: unknown) => unknown[] };
    run: (...args: unknown[]) => Promise<never>;
  };
  return run(who, ...schema.parse(args));
};
const refused = (name: ActionName, ...args: unknown[]) => expect(ask(name, developer, ...args)).rejects.toThrow();
/** The newest line of the audit trail. */
const told = async () => (await readAudit(id, {}))[0];
const visit = { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" };

describe("actions", () => {
  beforeAll(async () => {
    await migrate();
    await transaction(allSites, (db) => createSite(first, db));
    developer = await somebody(id, "developer", ["developer"]);
    author = await somebody(id, "author", ["author"]);
  });
  afterAll(() => pool().end());

  describe("how a site is served", () => {
    it("no visitor is sent into a private network, nor shown a frame from there", async () => {
      for (const host of ["192.168.1.4", "10.0.0.1:8080", "[::1]", "localhost:3000", "app.localhost"])
        expect(await ask("allowHosts", developer, [host])).toContain("private network");
    });
    it.each([
      ["trustProxies", "trustedProxies", ["10.0.0.0/8", "2001:db8::/32"], ["10.0.0.0/33"], "10.0.0.0/33"],
      [
        "allowHosts",
        "otherHosts",
        ["pt.shop.example", "shop.example:8080"],
        ["https://shop.example"],
        "https://shop.example",
      ],
      [
        "allowOrigins",
        "origins",
        ["https://partner.example"],
        ["https://partner.example/blog"],
        "https://partner.example",
      ],
    ] as const)(
      "%s takes a list whole or not at all, and says what is wrong with it",
      async (action, key, good, bad, named) => {
        expect(await ask(action, developer, good)).toBeUndefined();
        expect((await deliverySettings(id))[key]).toEqual(good);
        expect(await told()).toMatchObject({
          person: developer.id,
          kind: "settings",
          before: { [key]: expect.any(Array) },
          after: { [key]: good },
        });
        expect(await ask(action, developer, [...good, ...bad])).toContain(named);
        expect((await deliverySettings(id))[key]).toEqual(good);
        await refused(action, [7]);
        await refused(action, Array(101).fill(good[0]));
        expect(await ask(action, developer, [])).toBeUndefined();
        expect((await deliverySettings(id))[key]).toEqual([]);
      },
    );

    it("a second person and how long events are kept", async () => {
      await ask("askSecondPerson", developer, false);
      expect((await told())?.says).toBe("A release needs no second person");
      await ask("keepEventsFor", developer, 90);
      expect(await deliverySettings(id)).toMatchObject({ secondPerson: false, eventDays: 90 });
      for (const days of [0, 401, 1.5, "90"]) await refused("keepEventsFor", days);
      expect(await ask("servedBy", developer)).toMatchObject({
        secondPerson: false,
        eventDays: 90,
        keys: [],
        placeFiles: [],
      });
    });

    it("keys: a secret one is shown once, and an ended one stays ended", async () => {
      const made = (await ask("makeKey", developer, "secret", " For the shop ")) as {
        key: string;
        keys: { id: string; key: string | null }[];
      };
      expect(made.key).toMatch(new RegExp(`^server_${id}_[0-9a-f]{60}$`));
      expect(JSON.stringify(made.keys)).not.toContain(made.key);
      expect((await told())?.says).toBe("A secret key was made: For the shop");
      expect(JSON.stringify(await readAudit(id, {}))).not.toContain(made.key);
      const open = (await ask("makeKey", developer, "public", "Pages")) as {
        key: string;
        keys: { key: string | null }[];
      };
      expect(open.keys.map(({ key }) => key)).toContain(open.key);
      const [secret] = made.keys;
      const left = (await ask("endKey", developer, secret?.id)) as { id: string; endedAt: string | null }[];
      expect(left.find((key) => key.id === secret?.id)?.endedAt).toBeTruthy();
      await expect(ask("endKey", developer, "k-none")).rejects.toThrow("There is no such key.");
      await refused("makeKey", "master", "x");
      await refused("makeKey", "secret", "  ");
    });

    it("pages come from a sitemap, once each; those of other sites are counted, not taken", async () => {
      const origin = "https://shop.example";
      const xml = (...addresses: string[]) =>
        `<?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">${addresses.map((address) => `<url><loc>${address}</loc></url>`).join("")}</urlset>`;
      expect(
        await ask("readPageList", developer, xml(`${origin}/a`, `${origin}/b?x=1`, "https://other.example/c")),
      ).toMatchObject({ ok: true, added: 2, known: 0, elsewhere: 1 });
      expect(await ask("readPageList", developer, xml(`${origin}/a`, `${origin}/d`))).toMatchObject({
        added: 1,
        known: 1,
      });
      expect((await listPages(id)).map((page) => page.path).sort()).toEqual(["/a", "/b", "/d"]);
      expect(await ask("readPageList", developer, "<html>")).toMatchObject({ ok: false });
      await ask("dropPages", developer, ["/a"]);
      expect((await listPages(id)).map((page) => page.path).sort()).toEqual(["/b", "/d"]);
      expect((await told())?.says).toBe("The page /a was taken off the list");
    });

    it("place data is looked up until it is removed", async () => {
      const csv = "network,country,region,city,zone,lat,lon\n198.18.7.0/24,PT,,Porto,,,\n";
      await addPlaceFile(id, { id: "file-1", name: "mine.csv", format: "csv", says: "1 block" }, Buffer.from(csv));
      expect(await ask("placeOf", author, "198.18.7.9")).toMatchObject({ country: "PT", city: "Porto" });
      expect(await ask("placesOf", author, ["198.18.7.1", "nonsense", "198.18.9.1"])).toEqual([
        expect.objectContaining({ country: "PT" }),
        null,
        null,
      ]);
      await ask("dropPlaceFile", developer, "file-1");
      expect(await listPlaceFiles(id)).toEqual([]);
      expect((await told())?.says).toBe("Place data was removed: mine.csv");
      expect(await ask("placeOf", author, "198.18.7.9")).toBeNull();
      expect(await ask("placeOf", author, "nonsense")).toBeNull();
    });
  });

  describe("looking", () => {
    it("a pass is bound to the session that asked, and ends with it", async () => {
      const name = await beginSession(author.id, "another browser", pool());
      const other = (await bySession(id, name)) as SignedIn;
      const pass = await ask("pass", other, { visit, source: "draft", pins: { s: "a" } });
      expect(await readPass(id, pass)).toMatchObject({ visit, pins: { s: "a" } });
      expect(await readPass("brackenfold", pass)).toBeUndefined();
      // Somebody else's session is not theirs to end; their own is.
      const stranger = await somebody(id, "stranger", ["author"]);
      expect(await ask("endSession", stranger, other.session)).toBe("There is no such session.");
      expect(await ask("endSession", author, other.session)).toBeUndefined();
      expect(await readPass(id, pass)).toBeUndefined();
      await refused("pass", { visit, source: "somewhere", pins: {} });
      await refused("pass", { visit: { ...visit, at: "now" }, source: "draft", pins: {} });
    });

    it("lenses are kept, several all or none, and each leaves a line by its name", async () => {
      const lens = (name: string) => ({ id: name, name: `Lens ${name}`, visit });
      const kept = async () => (await listLenses(id)).map((item) => item.id);
      expect(await ask("keepLenses", author, [lens("one")])).toMatchObject({ kept: [{ id: "one" }] });
      expect(await kept()).toEqual(["one"]);
      expect((await told())?.says).toBe("The lens Lens one was kept");
      await refused("keepLenses", [lens("two"), { ...lens("three"), name: " " }]);
      expect(await ask("keepLenses", author, [lens("two"), lens("three")])).toMatchObject({ kept: [{}, {}] });
      await ask("dropLens", author, "two");
      expect(await kept()).toEqual(["one", "three"]);
      expect((await told())?.says).toBe("The lens Lens two was deleted");
    });

    it("a shared look is seen until it is ended, and by nobody who guesses", async () => {
      const look = { visit, source: "live", pins: {} };
      const { id: share, links } = (await ask("share", author, { look, title: "For the printer", minutes: 60 })) as {
        id: string;
        links: string[];
      };
      expect(links.every((link) => link.endsWith(`/shared/${share}`))).toBe(true);
      expect(await readShare(share, id)).toMatchObject({ title: "For the printer" });
      expect(await readShare(share, "brackenfold")).toBeUndefined();
      expect(await readPass(id, "x".repeat(24))).toBeUndefined();
      await ask("unshare", author, share);
      expect(await readShare(share, id)).toBeUndefined();
      expect((await told())?.says).toBe("The shared link of “For the printer” was ended");
      for (const minutes of [0, 4, 20_161]) await refused("share", { look, title: "x", minutes });
    });

    it("checks are kept, replaced by their id, and deleted", async () => {
      const check = (name: string, expected: object) => ({ id: name, name, visit, expect: expected });
      await ask("keepChecks", author, [check("a", { slot: "s", variant: null }), check("b", { total: 0 })]);
      expect((await told())?.says).toBe("2 checks were kept");
      await ask("keepChecks", author, [check("a", { slot: "s", variant: "a" })]);
      expect((await listChecks(id)).map((item) => [item.id, item.expect])).toEqual([
        ["a", { slot: "s", variant: "a" }],
        ["b", { total: 0 }],
      ]);
      await ask("dropCheck", author, "b");
      expect(await listChecks(id)).toHaveLength(1);
      expect((await told())?.says).toBe("The check b was deleted");
      await refused("keepChecks", [check("c", { total: -1 })]);
      await refused("keepChecks", [check("c", { slot: "s" })]);
    });
  });

  describe("people", () => {
    const old = "the old sentence";
    const fresh = "another sentence";

    it("whoever changes their password is signed out everywhere else", async () => {
      const wren = await newPerson(id, "wren", ["author"], await hashPassword(old));
      const names = await Promise.all([1, 2, 3].map(() => beginSession(wren, "a browser", pool())));
      const who = (await bySession(id, names[0] as string)) as SignedIn;
      expect(await ask("changePassword", who, "not the old one", fresh)).toBe("This is not your current password.");
      expect(await ask("changePassword", who, old, "short")).toContain("At least 10 characters");
      expect((await listSessions(id)).filter((session) => session.person === wren)).toHaveLength(3);
      expect(await ask("changePassword", who, old, fresh)).toBeUndefined();
      expect(
        (await listSessions(id)).filter((session) => session.person === wren).map((session) => session.id),
      ).toEqual([who.session]);
      expect(JSON.stringify(await told())).not.toContain(fresh);
    });

    it("invitations are seen by whoever keeps the people alone, and can be taken back", async () => {
      const link = (await ask("invite", developer, "Robin", ["editor"], [])) as string;
      expect(link).toMatch(/^\/join\/[\w-]{32}$/);
      const now = (await ask("people", developer)) as { invitations: { id: string; name: string }[] };
      expect(now.invitations.map((item) => item.name)).toEqual(["Robin"]);
      // What stands in the database opens nothing.
      expect(link).not.toContain(now.invitations[0]?.id);
      const seen = (await ask("people", author)) as { invitations: unknown[]; sessions: { person: string }[] };
      expect(seen.invitations).toEqual([]);
      expect(new Set(seen.sessions.map((session) => session.person))).toEqual(new Set([author.id]));
      await ask("dropInvitation", developer, now.invitations[0]?.id);
      expect((await ask("people", developer)) as object).toMatchObject({ invitations: [] });
      await refused("invite", "Nobody", [], []);
      await refused("invite", "Nobody", ["owner"], []);
    });

    it("roles change at once, for sessions that are open too", async () => {
      const name = await beginSession(author.id, "a browser", pool());
      expect(await ask("setRoles", developer, author.id, ["author", "approver"])).toBeUndefined();
      expect((await bySession(id, name))?.roles).toEqual(["author", "approver"]);
      expect(await told()).toMatchObject({
        says: "author has other roles",
        before: { roles: "author" },
        after: { roles: "author, approver" },
      });
      expect(await ask("setRoles", developer, "p-none", ["author"])).toBe("There is no such person.");
    });

    it("who is here, and at which screen, is told until they are gone", async () => {
      const here = (await ask("here", author, "/audiences")) as { person: string; screen: string }[];
      expect(here).toContainEqual(expect.objectContaining({ person: author.id, screen: "/audiences" }));
    });

    it("the audit trail is read by kind, person and from below a line", async () => {
      const all = (await ask("audit", author, {})) as { number: number; kind: string; person: string }[];
      expect(all.length).toBeGreaterThan(15);
      const keys = (await ask("audit", author, { kind: "keys" })) as typeof all;
      expect(new Set(keys.map((line) => line.kind))).toEqual(new Set(["keys"]));
      const below = (await ask("audit", author, { below: all[3]?.number })) as typeof all;
      expect(below[0]?.number).toBe(all[4]?.number);
      const mine = (await ask("audit", author, { person: author.id })) as typeof all;
      expect(new Set(mine.map((line) => line.person))).toEqual(new Set([author.id]));
    });
  });
});
