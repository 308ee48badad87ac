/** The command line as it is called: arguments and files in; lines, exit codes and one clear line of error out (engine, section 14). */
import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { afterAll, describe, expect, it } from "vitest";
import { site } from "@/core/testing";
import { accessLog } from "../../demo/traffic";
import { demoRuleset } from "../../demo/ruleset";

const folder = mkdtempSync(join(tmpdir(), "mirada-cli-"));
afterAll(() => rmSync(folder, { recursive: true }));

/** Runs `mirada` with its arguments. */
function mirada(args: string[], { input = "", env = {} }: { input?: string; env?: Record<string, string> } = {}) {
  const run = spawnSync(process.execPath, ["node_modules/tsx/dist/cli.mjs", "src/cli/mirada.ts", ...args], {
    input,
    encoding: "utf8",
    env: { ...process.env, ...env },
    maxBuffer: 1 << 28,
  });
  return { code: run.status, out: run.stdout, error: run.stderr, lines: run.stdout.trim().split("\n") };
}
/** Writes a file of these tests. @returns its path */
function file(name: string, content: unknown): string {
  const path = join(folder, name);
  writeFileSync(path, typeof content === "string" || Buffer.isBuffer(content) ? content : JSON.stringify(content));
  return path;
}
const parsed = (text: string) => JSON.parse(text) as Record<string, unknown>;

const when = (signal: string, op: string, value?: unknown) => ({
  signal,
  op,
  ...(value === undefined ? {} : { value }),
});
const block = (headline: string) => ({ type: "note", fields: { headline } });
const variant = (id: string, rule: unknown, headline = id) => ({
  id,
  name: id,
  rule,
  arms: [{ id: "a", weight: 100, content: block(headline) }],
});
const rules = {
  format: "mirada-ruleset/1",
  site,
  blockTypes: [{ id: "note", name: "Note", fields: [{ id: "headline", name: "Headline", kind: "text" }] }],
  slots: [
    {
      id: "hero",
      name: "Hero",
      fallback: block("Welcome"),
      variants: [
        variant("mail", when("campaign.source", "is", "mossmail"), "Hello again"),
        variant("again", when("history.views", "gt", 1)),
        variant("near", when("place", "isIn", [{ country: "PT" }])),
      ],
    },
  ],
  redirects: [{ id: "old", name: "Old", rule: when("page.path", "is", "/old"), to: "/new" }],
};
const ruleset = file("rules.json", rules);
const visit = (query = "", more: object = {}) => ({
  at: "2026-11-24T10:15:00Z",
  url: `https://shop.example/${query}`,
  ...more,
});
const shownBy = (line: string | undefined) =>
  (parsed(line as string).slots as { hero: { variant: string | null; content?: unknown }[] }).hero[0];

describe("validate", () => {
  it("prints no problems for a good ruleset, and each with its place for a bad one", () => {
    expect(mirada(["validate", ruleset])).toMatchObject({ code: 0, out: "[]\n", error: "" });
    const [slot] = rules.slots;
    const bad = {
      ...rules,
      colour: "green",
      slots: [{ ...slot, variants: [variant("x", when("campaign.sauce", "is", "a"))] }],
    };
    const found = mirada(["validate", file("bad.json", bad)]);
    expect(found.code).toBe(2);
    const problems = JSON.parse(found.out) as { path: string; problem: string }[];
    expect(problems.map(({ path }) => path)).toContain("/colour");
    expect(problems.every(({ problem }) => problem.length > 3)).toBe(true);
    const deep = JSON.parse(mirada(["validate", file("deep.json", { ...bad, colour: undefined })]).out) as {
      path: string;
    }[];
    expect(deep.map(({ path }) => path)).toEqual(["/slots/0/variants/0/rule/signal"]);
  });
});

describe("decide", () => {
  it("takes one visit, an array or lines, and answers each on a line, in order", () => {
    const one = mirada(["decide", ruleset, file("one.json", visit("?utm_source=MossMail"))]);
    expect(one).toMatchObject({ code: 0, error: "" });
    expect(shownBy(one.lines[0])).toEqual({ variant: "mail", arm: "a" });
    const list = [visit(), visit("?utm_source=mossmail"), visit("old")];
    const array = mirada(["decide", ruleset, file("list.json", list)]);
    const lines = mirada(["decide", ruleset, "-"], { input: list.map((item) => JSON.stringify(item)).join("\r\n") });
    expect(array.out).toBe(lines.out);
    expect(array.lines.slice(0, 2).map((line) => shownBy(line)?.variant)).toEqual([null, "mail"]);
    expect(parsed(array.lines[2] as string).redirect).toMatchObject({
      id: "old",
      location: "https://shop.example/new",
    });
  });

  it("gives content and reasons only if asked", () => {
    const path = file("asked.json", visit("?utm_source=mossmail"));
    expect(shownBy(mirada(["decide", ruleset, path, "--content"]).lines[0])?.content).toMatchObject({
      fields: { headline: "Hello again" },
    });
    const traced = parsed(mirada(["decide", ruleset, path, "--trace"]).out);
    expect(traced.trace).toMatchObject({ slots: [{ id: "hero" }] });
    expect(parsed(mirada(["decide", ruleset, path]).out)).not.toHaveProperty("trace");
  });

  it("carries the memory of a visitor from visit to visit, where a visit brings none", () => {
    const pages = ["", "a", "b"].map((path) => visit(path, { visitorId: "wren", consent: true }));
    const path = file("pages.json", [...pages, visit("c", { visitorId: "robin", consent: true })]);
    const variants = (args: string[]) =>
      mirada(["decide", ruleset, path, ...args]).lines.map((line) => shownBy(line)?.variant);
    expect(variants(["--carry"])).toEqual([null, "again", "again", null]);
    expect(variants([])).toEqual([null, null, null, null]);
  });

  it("asks the first file of places with a hit, and within it the longest prefix", () => {
    const heading = "network,country,region,city,zone,lat,lon";
    const first = file("first.csv", `${heading}\n192.0.2.0/24,ES,,,,,\n192.0.2.128/25,PT,,,,,\n`);
    const second = file("second.csv", `${heading}\n192.0.2.0/24,PT,,,,,\n198.51.100.0/24,PT,,,,,\n`);
    const path = file(
      "places.json",
      ["192.0.2.1", "192.0.2.200", "198.51.100.9", "203.0.113.1"].map((ip) => visit("", { ip })),
    );
    const run = mirada(["decide", ruleset, path, "--places", first, "--places", second]);
    expect(run.lines.map((line) => shownBy(line)?.variant)).toEqual([null, "near", "near", null]);
  });

  it("answers nothing where one visit is bad", () => {
    const run = mirada(["decide", ruleset, file("mixed.json", [visit(), { ...visit(), at: "yesterday" }])]);
    expect(run).toMatchObject({ code: 2, out: "" });
    expect(run.error).toMatch(/^mirada: .*mixed\.json, visit 2: \/at: must be an instant.*\n$/);
  });
});

describe("inspect", () => {
  it("prints what it found, a line each, and nothing on a ruleset without faults", () => {
    const [slot] = rules.slots;
    const never = { all: [when("campaign.source", "is", "a"), when("campaign.source", "is", "b")] };
    const faulty = { ...rules, redirects: [], slots: [{ ...slot, variants: [variant("never", never)] }] };
    const run = mirada(["inspect", file("faulty.json", faulty)]);
    expect(run.code).toBe(1);
    const found = run.lines.map((line) => parsed(line));
    expect(found.find(({ finding }) => finding === "never-shown")).toMatchObject({
      slot: "hero",
      variant: "never",
      proof: "exact",
    });
    expect(found.every(({ says }) => typeof says === "string")).toBe(true);
    const fine = {
      ...rules,
      redirects: [],
      slots: [{ ...slot, variants: [variant("mail", when("campaign.source", "is", "mossmail"))] }],
    };
    expect(mirada(["inspect", file("fine.json", fine)])).toMatchObject({ code: 0, out: "" });
  });
});

describe("check", () => {
  it("tells of each check whether it passed, and what came instead", () => {
    const check = (id: string, expected: object, at = visit()) => ({
      id,
      name: `Check ${id}`,
      visit: at,
      expect: expected,
    });
    const good = [check("a", { slot: "hero", variant: null }), check("b", { slot: "hero", text: "Welcome" })];
    expect(mirada(["check", ruleset, file("good.json", good)])).toMatchObject({
      code: 0,
      lines: ["passed  Check a", "passed  Check b", "2 passed, 0 failed"],
    });
    const bad = [...good, check("c", { redirect: "https://shop.example/new" }, visit("?utm_source=mossmail"))];
    const run = mirada(["check", ruleset, file("some.json", bad)]);
    expect(run.code).toBe(1);
    expect(run.lines[2]).toMatch(/^failed {2}Check c: .+/);
    expect(run.lines.at(-1)).toBe("2 passed, 1 failed");
  });
});

describe("replay", () => {
  const demo = file("demo.json", demoRuleset(0));
  const other = file("other.json", {
    ...demoRuleset(0),
    slots: demoRuleset(0).slots?.map((slot) => ({ ...slot, variants: slot.variants?.slice(1) })),
  });
  const text = [...accessLog(6000, Date.UTC(2026, 10, 25))].join("\n");
  const log = file("access.log", text);

  it("counts the same from a file, packed in several members, and from standard input", () => {
    const half = text.indexOf("\n", text.length / 2) + 1;
    const packed = file("access.log.gz", Buffer.concat([gzipSync(text.slice(0, half)), gzipSync(text.slice(half))]));
    const plain = mirada(["replay", demo, log]);
    expect(plain).toMatchObject({ code: 0, error: "" });
    expect(parsed(plain.out)).toMatchObject({ lines: 6000, broken: 2 });
    expect(parsed(plain.out)).not.toHaveProperty("changes");
    expect(mirada(["replay", demo, packed]).out).toBe(plain.out);
    expect(mirada(["replay", demo, "-"], { input: text }).out).toBe(plain.out);
  });

  it("counts the same in several processes as in one, with consent and beside other rules too", () => {
    for (const args of [[], ["--against", other], ["--against", other, "--consent"]]) {
      const one = mirada(["replay", demo, log, ...args], { env: { MIRADA_PROCESSES: "1" } });
      const three = mirada(["replay", demo, log, ...args], { env: { MIRADA_PROCESSES: "3" } });
      expect(three).toEqual(one);
      expect(one.code).toBe(0);
      const { views, visits, changes } = parsed(one.out) as {
        views: number;
        visits: number;
        changes?: { views: number; visits: number };
      };
      if (args.length > 0)
        expect(changes).toMatchObject({
          views: expect.toSatisfy((count: number) => count > 0 && count < views),
          visits: expect.toSatisfy((count: number) => count > 0 && count < visits),
        });
    }
  });

  it("says what it cannot read, in one process and in several", () => {
    const torn = file("torn.gz", gzipSync(text).subarray(0, 9000));
    for (const processes of ["1", "2"]) {
      const env = { MIRADA_PROCESSES: processes };
      const run = mirada(["replay", demo, torn], { env });
      expect([processes, run.code, run.out]).toEqual([processes, 2, ""]);
      expect(run.error).toMatch(/^mirada: cannot read \S*torn\.gz: Z_BUF_ERROR\n$/);
      expect(mirada(["replay", demo, join(folder, "none.log")], { env })).toMatchObject({
        code: 2,
        error: `mirada: cannot read ${join(folder, "none.log")}: ENOENT\n`,
      });
    }
  });
});

describe("whatever is asked", () => {
  it.each([
    [[], /^mirada: usage: mirada validate RULESET/],
    [
      ["undo"],
      /^mirada: no command "undo"; there are validate, decide, inspect, check, replay, migrate, set-up-link, site, person, key\n$/,
    ],
    [["decide", ruleset], /^mirada: expected RULESET VISITS\n$/],
    [["decide", ruleset, "-", "--loud"], /^mirada: .*--loud.*\n$/],
    [["inspect", "missing.json"], /^mirada: cannot read missing\.json: ENOENT\n$/],
    [["validate", file("nonsense.json", "{ nonsense")], /^mirada: \S*nonsense\.json is not JSON: .*\n$/],
    [["check", ruleset, file("odd.json", [{ id: "a" }])], /^mirada: \S*odd\.json: \/0\/name: .*\n$/],
    [
      ["decide", ruleset, "-", "--places", file("odd.csv", "network,country\nnot-a-network,PT\n")],
      /^mirada: \S*odd\.csv: line 2.*\n$/,
    ],
    [
      ["decide", ruleset, "-", "--places", file("odd.mmdb", "no such data")],
      /^mirada: \S*odd\.mmdb is no MMDB file\n$/,
    ],
  ])("%j is bad input: exit 2, one line", (args, error) => {
    const run = mirada(args);
    expect([run.code, run.out]).toEqual([2, ""]);
    if (args.length > 0) expect(run.error.trimEnd().split("\n")).toHaveLength(1);
    expect(run.error).toMatch(error);
  });
});
