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
  if (major < 20 || (major === 20 && minor < 19))
    throw new Stop(`Node.js 20.19 or newer is needed; this is ${process.versions.node}.`);
  const mark = join(root, "node_modules/.mirada-lock");
  const lock = createHash("sha256")
    .update(readFileSync(join(root, "package-lock.json")))
    .digest("hex");
  if (existsSync(mark) && readFileSync(mark, "utf8") === lock) return;
  const begun = join(root, "node_modules.installing");
  if (!existsSync(begun) && isInstalled()) return writeFileSync(mark, lock);
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

/** Whether `npm ci` was run by hand: npm writes down what it has installed once all of it is there. */
function isInstalled() {
  const told = join(root, "node_modules/.package-lock.json");
  if (!existsSync(told)) return false;
  const packages = (file) => JSON.parse(readFileSync(file, "utf8")).packages;
  const there = packages(told);
  return Object.entries(packages(join(root, "package-lock.json"))).every(
    ([path, { version, optional }]) => path === "" || optional || there[path]?.version === version,
  );
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
          ? reject(new Stop(`Port ${port} is in use. Stop what uses it, or choose another: PORT=4400`))
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

/**
 * A loopback port that is free together with those so much above it: below the range from which the system gives ports to
 * connections, so that they are still free a little later.
 */
export async function freePorts(above) {
  for (let tries = 0; tries < 200; tries++) {
    const port = 10_000 + Math.floor(Math.random() * 20_000);
    const free = await Promise.all([0, ...above].map((more) => isFree(port + more)));
    if (free.every(Boolean)) return port;
  }
  throw new Stop("No free ports were found on this machine.");
}
const isFree = (port) =>
  new Promise((resolve) => {
    const probe = createServer();
    probe.once("error", () => resolve(false));
    probe.listen(port, "127.0.0.1", () => probe.close(() => resolve(true)));
  });

function* filesIn(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* filesIn(path);
    else yield path;
  }
}

/**
 * Does a build if what it is made of has changed since it was last done.
 * @param options.of files and folders that it is made of; options.mark where it is noted that it was done; options.work does it
 */
export async function buildOnce({ what, of, mark, work }) {
  const hash = createHash("sha256");
  for (const name of of) {
    const path = join(root, name);
    for (const file of statSync(path).isDirectory() ? [...filesIn(path)].sort() : [path])
      if (!/\.test\.tsx?$|\/\.next\/|next-env\.d\.ts$/.test(file))
        hash.update(file.slice(root.length)).update(readFileSync(file));
  }
  const digest = hash.digest("hex");
  if (existsSync(mark) && readFileSync(mark, "utf8") === digest) return;
  // Until the whole of it is there, there is no build.
  const building = `${mark}-building`;
  console.log(
    existsSync(building) ? `The last build of ${what} was not completed: building anew …` : `Building ${what} …`,
  );
  rmSync(mark, { force: true });
  mkdirSync(dirname(mark), { recursive: true });
  writeFileSync(building, "");
  await work();
  writeFileSync(mark, digest);
  rmSync(building, { force: true });
}

/** Builds a Next application in a folder. */
export const nextBuild = (folder) =>
  run("node", ["node_modules/next/dist/bin/next", "build", folder], {
    quiet: true,
    env: { NODE_ENV: "production", NEXT_TELEMETRY_DISABLED: "1" },
  });

/** Builds the product: the workbench, its processes and the page script. */
export const ensureBuild = () =>
  buildOnce({
    what: "Mirada",
    of: ["package-lock.json", "next.config.ts", "tsconfig.json", "src"],
    mark: join(root, ".next/mirada-build"),
    async work() {
      await nextBuild(".");
      const { bundle } = await import("./bundle.mjs");
      await bundle();
    },
  });

export const tsx = (file, args = [], options = {}) =>
  run("node", ["node_modules/tsx/dist/cli.mjs", file, ...args], options);
export const isFile = (path) => existsSync(path) && statSync(path).isFile();
