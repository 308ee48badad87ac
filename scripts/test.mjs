// npm test: set-up on a database of its own, then lint, types, unit, reference, system and browser tests.
// Closes with the plain line "N passed, N failed".
import { spawn } from "node:child_process";
import { readFileSync, mkdirSync } from "node:fs";
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

await main(async () => {
  await ensurePackages();
  await ensureDebian(["chromium"], () => isFile("/usr/bin/chromium"));
  mkdirSync(join(root, ".data"), { recursive: true });
  const database = await startPostgres("test", { reset: true, throwaway: true });
  let server;
  const stop = () => {
    server?.kill("SIGTERM");
    database.stop();
  };
  process.once("SIGINT", () => (stop(), process.exit(130)));
  try {
    process.env.DATABASE_URL = database.url;
    process.env.NEXT_TELEMETRY_DISABLED = "1";
    await ensureBuild();
    count(await attempt("types", ["node_modules/typescript/bin/tsc", "--noEmit", "-p", "."]));
    count(await attempt("lint", ["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"]));
    count(await attempt("format", ["node_modules/prettier/bin/prettier.cjs", "--check", "--log-level", "warn", "."]));

    const vitest = join(root, ".data/vitest.json");
    const good = await attempt("unit, reference and system tests", [
      "node_modules/vitest/vitest.mjs",
      "run",
      "--reporter=default",
      "--reporter=json",
      `--outputFile.json=${vitest}`,
    ]);
    const told = JSON.parse(readFileSync(vitest, "utf8"));
    passed += told.numPassedTests;
    failed += told.numFailedTests;
    skipped += told.numPendingTests;
    if (!good && told.numFailedTests === 0) failed += 1;

    // The demo's partner page stands on the application's port, and is allowed to ask from there.
    const port = await freePorts([1, 2, 3, 10, 20]);
    const { ensureDemoBuild, fillIn } = await import("../demo/programs.mjs");
    await ensureDemoBuild();
    await administer("migrate");
    await fillIn(port);
    server = spawn("node", ["scripts/serve.mjs"], {
      cwd: root,
      env: { ...process.env, PORT: String(port), MIRADA_DEMO: "yes", MIRADA_PRIVATE_HOSTS: "yes" },
      stdio: ["ignore", "pipe", "inherit"],
    });
    await new Promise((resolve, reject) => {
      server.stdout.on("data", (text) => String(text).includes("ready on") && resolve());
      server.on("exit", () => reject(new Error("the server ended before it was ready")));
    });
    const browser = join(root, ".data/playwright.json");
    // A second try tells what came late from what is wrong. How many needed it is said at the end: they are to be mended.
    const fine = await attempt(
      "browser tests",
      ["node_modules/@playwright/test/cli.js", "test", "--retries=1", "--reporter=list,json"],
      { PORT: String(port), PLAYWRIGHT_JSON_OUTPUT_FILE: browser },
    );
    const { stats } = JSON.parse(readFileSync(browser, "utf8"));
    passed += stats.expected + stats.flaky;
    failed += stats.unexpected;
    flaky += stats.flaky;
    if (!fine && stats.unexpected === 0) failed += 1;
    count(await attempt("another date", ["scripts/days.mjs", "--one"]));
  } catch (error) {
    failed += 1;
    console.error(error);
  } finally {
    stop();
  }
  console.log(`\n${flaky} of the browser tests passed only at a second try`);
  console.log(`${passed} passed, ${failed} failed, ${skipped} skipped`);
  process.exitCode = failed === 0 ? 0 : 1;
});
