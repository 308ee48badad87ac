/**
 * npm run bench: bundles the benchmark as a server would (no names kept for debugging) and runs it.
 * `-- --compare REV` runs that of another revision beside it, in turn, with this one's packages; then, for each figure, this one's
 * over the other's.
 */
import { execFile, spawn } from "node:child_process";
import { cpSync, mkdirSync, rmSync, symlinkSync } from "node:fs";
import { join } from "node:path";
import { promisify } from "node:util";
import { build } from "esbuild";
import { main, root, run } from "./lib/steps.mjs";

/** So often each of two revisions is measured. */
const rounds = 3;

async function bundleBench(folder) {
  const outfile = join(folder, ".data/bench.mjs");
  mkdirSync(join(folder, ".data"), { recursive: true });
  await build({
    absWorkingDir: folder,
    entryPoints: [join(folder, "bench/run.ts")],
    outfile,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    packages: "external",
    logLevel: "warning",
  });
  return outfile;
}

/** A revision as files of their own, with its processes bundled. */
async function checkOut(revision) {
  const folder = join(root, ".data/compared");
  rmSync(folder, { recursive: true, force: true });
  mkdirSync(folder, { recursive: true });
  const { stdout: name } = await promisify(execFile)("git", ["rev-parse", "--short", `${revision}^{commit}`], {
    cwd: root,
  });
  const archive = spawn("git", ["archive", name.trim()], { cwd: root, stdio: ["ignore", "pipe", "inherit"] });
  const unpack = spawn("tar", ["x", "-C", folder], { stdio: [archive.stdout, "inherit", "inherit"] });
  await new Promise((done, fail) =>
    unpack.on("exit", (code) => (code === 0 ? done() : fail(new Error(`no ${revision}`)))),
  );
  symlinkSync(join(root, "node_modules"), join(folder, "node_modules"));
  // Measured by the very same: what it measures is the other's.
  rmSync(join(folder, "bench"), { recursive: true, force: true });
  cpSync(join(root, "bench"), join(folder, "bench"), { recursive: true });
  await run("node", ["-e", 'import("./scripts/lib/bundle.mjs").then(({ bundle }) => bundle())'], { cwd: folder });
  return { folder, name: name.trim() };
}

/** What a benchmark prints, by figure and how many variants it is of. */
async function figuresOf(folder, outfile, args) {
  const { stdout } = await promisify(execFile)("node", ["--expose-gc", outfile, ...args], {
    cwd: folder,
    maxBuffer: 1 << 26,
  });
  const lines = stdout.split("\n").filter((line) => line.startsWith("{"));
  return new Map(
    lines.map((line) => {
      const { figure, variants, ...values } = JSON.parse(line);
      return [JSON.stringify({ figure, ...(variants === undefined ? {} : { variants }) }), values];
    }),
  );
}
const middle = (list) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)];

async function compare(revision, args) {
  const other = await checkOut(revision);
  const pair = [
    { folder: root, outfile: await bundleBench(root), told: [] },
    { folder: other.folder, outfile: await bundleBench(other.folder), told: [] },
  ];
  for (let round = 0; round < rounds; round++)
    for (const one of round % 2 === 0 ? pair : [...pair].reverse())
      one.told.push(await figuresOf(one.folder, one.outfile, args));
  const [mine, theirs] = pair.map(({ told }) => told);
  for (const [key, values] of mine[0]) {
    const ratios = {};
    for (const [name, value] of Object.entries(values)) {
      const both = [mine, theirs].map((told) =>
        told.map((one) => one.get(key)?.[name]).filter((one) => typeof one === "number"),
      );
      if (typeof value !== "number" || both.some((list) => list.length < rounds)) continue;
      const [now, before] = both.map(middle);
      ratios[name] = { now, before, ratio: before === 0 ? null : Number((now / before).toFixed(3)) };
    }
    console.log(JSON.stringify({ ...JSON.parse(key), beside: other.name, ...ratios }));
  }
  rmSync(other.folder, { recursive: true, force: true });
}

await main(async () => {
  const args = process.argv.slice(2);
  const at = args.indexOf("--compare");
  if (at < 0) return run("node", ["--expose-gc", await bundleBench(root), ...args]);
  const [, revision] = args.splice(at, 2);
  if (!revision) throw new Error("--compare needs a revision: npm run bench -- --compare HEAD~1");
  return compare(revision, args);
});
