// What the demo and the tests need before anything else: packages, programs, a build. Only Node's own modules here,
// since nothing may be installed yet.
import { spawn, spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { dirname, join } from "node:path";
import { fileURLToPath } from "node:url";

export const root = fileURLToPath(new URL("../..", import.meta.url)).replace(/\/$/, "");

/** Something the person at the keyboard can mend: said in one line. */
export class Stop extends Error {}

/** Runs the body of a script; a `Stop` ends it with its one line. */
export async function main(body) {
  try {
    await body();
  } catch (error) {
    if (!(error instanceof Stop)) throw error;
    console.error(`\n${error.message}`);
    process.exitCode = 1;
  }
}

/** Runs a program to its end, with its output shown. @throws Stop if it fails. */
export function run(command, args, { env = {}, quiet = false, cwd = root } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      cwd,
      env: { ...process.env, ...env },
      stdio: quiet ? ["ignore", "pipe", "pipe"] : "inherit",
    });
    let out = "";
    child.stdout?.on("data", (part) => (out += part));
    child.stderr?.on("data", (part) => (out += part));
    child.on("error", (error) => reject(new Stop(`${command} could not be started: ${error.message}`)));
    child.on("exit", (code) =>
      code === 0 ? resolve(out) : reject(new Stop(`${out}${command} ${args[0] ?? ""} failed (exit ${code})`)),
    );
  });
}

export const isRoot = () => process.getuid?.() === 0;

/** Installs the npm packages if they are missing or older than the lock file. */
export async function ensurePackages() {
  const [major = 0, minor = 0] = process.versions.node.split(".").map(Number);
  if (major < 20 || (major === 20 && minor < 9))
    throw new Stop(`Node.js 20.9 or newer is needed; this is ${process.versions.node}.`);
  const mark = join(root, "node_modules/.mirada-lock");
  const lock = createHash("sha256")
    .update(readFileSync(join(root, "package-lock.json")))
    .digest("hex");
  if (existsSync(mark) && readFileSync(mark, "utf8") === lock) return;
  const begun = join(root, "node_modules.installing");
  console.log(
    existsSync(begun)
      ? "npm packages were not installed completely last time: installing them anew …"
      : "Installing npm packages …",
  );
  writeFileSync(begun, "");
  await run("npm", ["ci", "--no-audit", "--no-fund", "--loglevel=error"]);
  writeFileSync(mark, lock);
  rmSync(begun, { force: true });
}

/** Installs Debian packages where apt and root are there. @throws Stop with what to install, otherwise. */
export async function ensureDebian(packages, isThere) {
  if (isThere()) return;
  const apt = spawnSync("apt-get", ["--version"]).status === 0;
  if (!apt || !isRoot())
    throw new Stop(`Not installed: ${packages.join(", ")}. As root: apt-get install ${packages.join(" ")}`);
  console.log(`Installing ${packages.join(", ")} …`);
  const env = { DEBIAN_FRONTEND: "noninteractive" };
  await run("apt-get", ["update"], { quiet: true, env });
  await run("apt-get", ["install", "-y", "--no-install-recommends", ...packages], { quiet: true, env });
  if (!isThere()) throw new Stop(`${packages.join(", ")} was installed but cannot be found.`);
}

/** @throws Stop if something else listens on the port. */
export async function ensureFreePort(port) {
  for (const host of ["127.0.0.1", "::1"])
    await new Promise((resolve, reject) => {
      const probe = createServer();
      probe.once("error", (error) =>
        error.code === "EADDRINUSE"
          ? reject(new Stop(`Port ${port} is in use. Stop what uses it, or choose another: PORT=4400 npm run demo`))
          : resolve(),
      );
      probe.listen(port, host, () => probe.close(() => resolve()));
    });
}

/** A free loopback port. */
export const freePort = () =>
  new Promise((resolve, reject) => {
    const probe = createServer();
    probe.once("error", reject);
    probe.listen(0, "127.0.0.1", () => {
      const { port } = probe.address();
      probe.close(() => resolve(port));
    });
  });

function* filesIn(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* filesIn(path);
    else yield path;
  }
}

/** Builds the application if its sources have changed since the last build. */
export async function ensureBuild() {
  const hash = createHash("sha256");
  for (const name of ["package-lock.json", "next.config.ts", "tsconfig.json"])
    hash.update(readFileSync(join(root, name)));
  for (const file of [...filesIn(join(root, "src"))].sort())
    if (!/\.test\.tsx?$/.test(file)) hash.update(file.slice(root.length)).update(readFileSync(file));
  const digest = hash.digest("hex");
  const mark = join(root, ".next/mirada-build");
  if (existsSync(mark) && readFileSync(mark, "utf8") === digest) return;
  // Until the whole of it is there, there is no build.
  const begun = existsSync(join(root, ".next/mirada-building"));
  console.log(begun ? "The last build was not completed: building anew …" : "Building …");
  rmSync(mark, { force: true });
  mkdirSync(dirname(mark), { recursive: true });
  writeFileSync(join(root, ".next/mirada-building"), "");
  await run("node", ["node_modules/next/dist/bin/next", "build"], {
    quiet: true,
    env: { NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
  });
  const { bundle } = await import("./bundle.mjs");
  await bundle();
  writeFileSync(mark, digest);
  rmSync(join(root, ".next/mirada-building"), { force: true });
}

export const tsx = (file, args = [], options = {}) =>
  run("node", ["node_modules/tsx/dist/cli.mjs", file, ...args], options);
export const isFile = (path) => existsSync(path) && statSync(path).isFile();
