// npm test: set-up on a database of its own, then lint, types, unit, reference, system and browser tests.
// Closes with the plain line "N passed, N failed".
import { spawn } from "node:child_process";
import { readFileSync, mkdirSync } from "node:fs";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { startPostgres } from "./lib/postgres.mjs";
import { administer } from "./lib/product.mjs";
import { ensureBuild, ensureDebian, ensurePackages, freePorts, isFile, main, root } from "./lib/steps.mjs";

let passed = 0;
let failed = 0;
let flaky = 0;
let skipped = 0;

/** Runs a program with its output shown; true if it succeeded. */
const attempt = (name, args, env = {}) =>
  new Promise((resolve) => {
    console.log(`\n— ${name}`);
    const child = spawn("node", args, { cwd: root, env: { ...process.env, ...env }, stdio: "inherit" });
    child.on("exit", (code) => resolve(code === 0));
  });
const count = (good) => (good ? passed++ : failed++);

/** Runs projects of vitest, and counts what came of them. */
async function tests(name, projects) {
  const told = join(root, `.data/vitest-${projects[0]}.json`);
  const good = await attempt(name, [
    "node_modules/vitest/vitest.mjs",
    "run",
    ...projects.map((project) => `--project=${project}`),
    "--reporter=default",
    "--reporter=json",
    `--outputFile.json=${told}`,
  ]);
  const { numPassedTests, numFailedTests, numPendingTests } = JSON.parse(readFileSync(told, "utf8"));
  passed += numPassedTests;
  failed += numFailedTests;
  skipped += numPendingTests;
  if (!good && numFailedTests === 0) failed += 1;
}

const stops = [];
const stop = () => stops.splice(0).forEach((end) => end());

/** Starts a filled-in demo on a database of its own. @returns what runs a part of the browser tests on it */
async function startPart(part, of) {
  const database = await startPostgres(`test-browser-${part}`, { reset: true, throwaway: true });
  stops.push(database.stop);
  process.env.DATABASE_URL = database.url;
  // The demo's partner page stands on the application's port, and is allowed to ask from there.
  const port = await freePorts([1, 2, 3, 10, 20]);
  const { fillIn } = await import("../demo/programs.mjs");
  await administer("migrate");
  await fillIn(port);
  const server = spawn("node", ["scripts/serve.mjs"], {
    cwd: root,
    env: {
      ...process.env,
      PORT: String(port),
      MIRADA_DEMO: "yes",
      MIRADA_DEMO_WAIT: "3000",
      MIRADA_PRIVATE_HOSTS: "yes",
    },
    stdio: ["ignore", "pipe", "inherit"],
  });
  stops.push(() => server.kill("SIGTERM"));
  await new Promise((resolve, reject) => {
    server.stdout.on("data", (text) => String(text).includes("ready on") && resolve());
    server.on("exit", () => reject(new Error("the server ended before it was ready")));
  });
  return async () => {
    const told = join(root, `.data/playwright-${part}.json`);
    // Further tries tell what came late, on a machine that does two halves at once, from what is wrong. How many needed them is said at
    // the end: they are to be mended.
    const fine = await attempt(
      `browser tests, part ${part} of ${of}`,
      [
        "node_modules/@playwright/test/cli.js",
        "test",
        "--retries=2",
        "--reporter=list,json",
        `--shard=${part}/${of}`,
        `--output=test-results/${part}`,
      ],
      { DATABASE_URL: database.url, PORT: String(port), PLAYWRIGHT_JSON_OUTPUT_FILE: told },
    );
    const { stats } = JSON.parse(readFileSync(told, "utf8"));
    return { ...stats, unexpected: stats.unexpected + (!fine && stats.unexpected === 0 ? 1 : 0) };
  };
}

await main(async () => {
  await ensurePackages();
  await ensureDebian(["chromium"], () => isFile("/usr/bin/chromium"));
  mkdirSync(join(root, ".data"), { recursive: true });
  const database = await startPostgres("test", { reset: true, throwaway: true });
  stops.push(database.stop);
  process.once("SIGINT", () => (stop(), process.exit(130)));
  try {
    process.env.DATABASE_URL = database.url;
    process.env.NEXT_TELEMETRY_DISABLED = "1";
    await ensureBuild();
    const checks = [
      attempt("types", ["node_modules/typescript/bin/tsc", "--noEmit", "-p", "."]),
      attempt("lint", ["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"]),
      attempt("spelling", ["node_modules/cspell/bin.mjs", "--no-progress", "--no-summary"]),
      attempt("format", ["node_modules/prettier/bin/prettier.cjs", "--check", "--log-level", "warn", "."]),
    ];
    for (const good of await Promise.all(checks)) count(good);

    // What needs no database runs beside the tests that share one; each of the two goes through its files one after the other.
    await Promise.all([tests("unit and reference tests", ["unit", "reference"]), tests("system tests", ["system"])]);

    // Browser tests wait for most of their time: two halves of them run side by side, each on a demo of its own.
    const halves = availableParallelism() > 1 ? 2 : 1;
    const { ensureDemoBuild } = await import("../demo/programs.mjs");
    await ensureDemoBuild();
    const parts = [];
    for (let half = 1; half <= halves; half++) parts.push(await startPart(half, halves));
    for (const told of await Promise.all(parts.map((part) => part()))) {
      passed += told.expected + told.flaky;
      failed += told.unexpected;
      flaky += told.flaky;
    }
    count(await attempt("another date", ["scripts/days.mjs", "--one"]));
  } catch (error) {
    failed += 1;
    console.error(error);
  } finally {
    stop();
  }
  console.log(`\n${flaky} of the browser tests passed only at a further try`);
  console.log(`${passed} passed, ${failed} failed, ${skipped} skipped`);
  process.exitCode = failed === 0 ? 0 : 1;
});
