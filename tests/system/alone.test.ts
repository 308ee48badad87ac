/** The product where the demo is not: built, checked in part, and started for real from a copy that has no demo/. */
import { spawn, spawnSync, type ChildProcess } from "node:child_process";
import { cpSync, mkdirSync, rmSync } from "node:fs";
import { dirname, join } from "node:path";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { startPostgres } from "../../scripts/lib/postgres.mjs";
import { freePorts } from "../../scripts/lib/steps.mjs";

// Beside the packages, so that they can be shared without being copied.
const folder = join(process.cwd(), ".data/alone");
let database: Awaited<ReturnType<typeof startPostgres>>;
let product: ChildProcess | undefined;

/** Runs a program of Node.js in the copy. @returns how it ended, and what it printed */
const run = (...args: string[]) => {
  const done = spawnSync("node", args, {
    cwd: folder,
    encoding: "utf8",
    env: { ...process.env, NEXT_TELEMETRY_DISABLED: "1" },
  });
  return { status: done.status, said: `${done.stdout}${done.stderr}`.slice(-3000) };
};

beforeAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  const tracked = spawnSync("git", ["ls-files", "-co", "--exclude-standard"], { encoding: "utf8" }).stdout;
  for (const file of tracked.split("\n").filter((name) => name && !/^(demo|docs|bench)\//.test(name))) {
    mkdirSync(dirname(join(folder, file)), { recursive: true });
    cpSync(file, join(folder, file));
  }
  expect(spawnSync("cp", ["-al", "node_modules", join(folder, "node_modules")]).status).toBe(0);
  database = await startPostgres("without-demo", { reset: true, throwaway: true });
}, 120_000);
afterAll(() => {
  product?.kill("SIGTERM");
  database.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe("the product without the demo’s folder", () => {
  it("is built", () => {
    const built = run("scripts/build.mjs");
    expect(built.said).not.toMatch(/demo\//);
    expect([built.status, built.said]).toEqual([0, expect.any(String)]);
  }, 400_000);

  it("passes its own tests of what visitors get", () => {
    const tested = run(
      "node_modules/vitest/vitest.mjs",
      "run",
      "--project",
      "unit",
      "src/core/decision",
      "src/delivery",
    );
    expect(tested.said).toMatch(/Tests .*\d+ passed/);
    expect(tested.status).toBe(0);
  }, 200_000);

  it("starts, and gives a first person a link to set it up", async () => {
    const port = await freePorts([1, 2, 3]);
    let said = "";
    product = spawn("node", ["scripts/start.mjs"], {
      cwd: folder,
      env: { ...process.env, PORT: String(port), DATABASE_URL: database.url },
      stdio: ["ignore", "pipe", "pipe"],
    });
    product.stdout?.on("data", (text) => (said += String(text)));
    product.stderr?.on("data", (text) => (said += String(text)));
    await expect.poll(() => /\/set-up\/\S+/.exec(said)?.[0] ?? said, { timeout: 60_000 }).toMatch(/^\/set-up\//);
    const link = /\/set-up\/[\w-]+/.exec(said)?.[0];
    const page = await fetch(`http://localhost:${port}${link}`);
    expect([page.status, (await page.text()).includes("Mirada")]).toEqual([200, true]);
    expect(said).not.toMatch(/brackenfold/i);
  }, 90_000);
});
