/**
 * A new signal and a new operator are one entry each, as CONTRIBUTING.md tells: done here in a copy of the core. What follows from
 * the tables is there at once; what an entry leaves out is refused by the compiler; and nothing is proven of what nobody declared.
 */
import { execFile } from "node:child_process";
import { cpSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { promisify } from "node:util";
import { afterAll, expect, it } from "vitest";

const run = promisify(execFile);
const copy = mkdtempSync(join(tmpdir(), "mirada-entry-"));
afterAll(() => rmSync(copy, { recursive: true, force: true }));

const signal = `  "referrer.path": {
    ...arrival(text("the path of the referring page"), text("Path of the page before."), text("came from page"), null, (r) => r.referrer?.address.path),
  },
`;
const operator = `  under: ofNumber(text("is under"), text("It is below this number."), (high) => ({ low: -Infinity, high, openLow: false, openHigh: true })),
`;

/** Puts text before the first place of a file where something stands. */
function putBefore(file: string, there: string, text: string): void {
  const path = join(copy, file);
  const before = readFileSync(path, "utf8");
  const at = before.indexOf(there);
  expect(at).toBeGreaterThan(0);
  writeFileSync(path, before.slice(0, at) + text + before.slice(at));
}
const types = () =>
  run(process.execPath, [resolve("node_modules/typescript/bin/tsc"), "-p", copy, "--noEmit"], { cwd: copy }).then(
    () => "",
    (error: { stdout: string }) => error.stdout,
  );

const asked = `
import { Space } from "./src/core/analysis/solve";
import { createEngine } from "./src/core/decision/engine";
import { toJsonLogic } from "./src/core/exchange/json-logic";
import { ruleText } from "./src/core/rules/sentence";
import { opChoices, searchText, signalChoices } from "./src/core/ruleset/choices";
import { signalReference } from "./src/core/ruleset/reference";
import { ruleset, variant, visit } from "./src/core/testing";
import { ruleSchema } from "./src/core/formats/rule";

const path = { signal: "referrer.path", op: "is", value: "/talk" } as const;
const under = { signal: "device.width", op: "under", value: 700 } as const;
const rules = ruleset({ slots: [{ id: "s", name: "S", variants: [variant("v", { all: [path, under] })] }] });
const space = new Space({ ruleset: rules, from: Date.UTC(2027, 2, 1) });
const solve = (...clauses: { rule: unknown; holds: boolean }[]) => {
  const found = space.solve(clauses.map((clause) => [clause]) as never);
  return found.found ? "found" : found.proof;
};
const shown = (width: number, referrer: string) =>
  createEngine(rules).decide(visit({ referrer, hints: { width } })).slots.s?.[0]?.variant ?? null;
console.log(
  JSON.stringify({
    schema: ruleSchema.safeParse({ all: [path, under] }).success,
    offered: signalChoices(rules).some((choice) => searchText(choice).includes("came from page")),
    operators: [opChoices("device.width", rules).includes("under"), opChoices("referrer.path", rules).includes("under")],
    sentence: ruleText({ all: [path, under] }, rules),
    shown: [shown(699, "https://a.example/talk"), shown(700, "https://a.example/talk"), shown(699, "https://a.example/")],
    logic: JSON.stringify(toJsonLogic(rules).slots.s),
    reference: [signalReference().includes("referrer.path"), signalReference().includes("is under")],
    width: [
      solve({ rule: under, holds: true }, { rule: { ...under, op: "gte", value: 699 }, holds: true }),
      solve({ rule: under, holds: true }, { rule: { ...under, op: "gte" }, holds: true }),
    ],
    path: solve({ rule: path, holds: true }),
  }),
);
`;

it("adds a signal and an operator by an entry each, and finds them everywhere", async () => {
  cpSync("src/core", join(copy, "src/core"), { recursive: true, filter: (name) => !/\.test\.ts$/.test(name) });
  symlinkSync(resolve("node_modules"), join(copy, "node_modules"));
  const { compilerOptions } = JSON.parse(readFileSync("tsconfig.json", "utf8")) as { compilerOptions: object };
  writeFileSync(
    join(copy, "tsconfig.json"),
    JSON.stringify({
      compilerOptions: { ...compilerOptions, incremental: false, plugins: [] },
      include: ["src/core/**/*.ts", "asked.ts"],
    }),
  );
  putBefore("src/core/visit/signals.ts", `  "device.kind": device(`, signal);
  putBefore("src/core/formats/operators.ts", "  between: {", operator);
  writeFileSync(join(copy, "asked.ts"), asked);
  const { stdout } = await run(process.execPath, ["--import", "tsx", "asked.ts"], { cwd: copy });
  const told = JSON.parse(stdout) as Record<string, unknown>;
  expect(told).toMatchObject({
    schema: true,
    offered: true,
    operators: [true, false],
    sentence: "the path of the referring page is “/talk” and the window width is under 700",
    shown: ["v", null, null],
    reference: [true, true],
    // What is proven of widths holds for the new operator, too; of the new signal nobody has declared how it is told apart.
    width: ["found", "exact"],
    path: "searched",
  });
  expect(told.logic).toContain("referrer-path.value");
  expect(told.logic).toContain('{"<":[{"var":"device-width.value"},700]}');
});

it("is refused by the compiler while anything of it is left out", async () => {
  const path = join(copy, "src/core/visit/signals.ts");
  const whole = readFileSync(path, "utf8");
  writeFileSync(path, whole.replace("  ip: {\n    ...usual,", "  ip: {"));
  // A meaning of a new kind: the engine cannot judge it yet.
  putBefore(
    "src/core/formats/operators.ts",
    "  /** A number or amount from low to high",
    '  | { is: "multiple"; of: number }\n',
  );
  const refused = await types();
  const files = new Set([...refused.matchAll(/^(\S+?)\(/gm)].map(([, file]) => file));
  // Nothing else is wrong: what was added above is whole.
  expect([...files].sort()).toEqual(["src/core/rules/condition.ts", "src/core/visit/signals.ts"]);
  expect(refused).toMatch(/missing the following properties from type 'FixedEntry'/);
}, 300_000);
