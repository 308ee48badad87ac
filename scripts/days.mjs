// npm run test:days: starts the whole on other dates, each with the clock of Node.js and PostgreSQL set, and walks through it in a
// browser. `--one` takes one of the dates, another each day; `--whole` runs all unit, reference, system and browser tests on each
// (`--from N` begins with the Nth date). Closes with "N passed, N failed".
import { spawn } from "node:child_process";
import { ensureDemoBuild } from "../demo/programs.mjs";
import { ensureBuild, ensureDebian, ensurePackages, isFile, main, root } from "./lib/steps.mjs";

/** Dates on which something is special, in UTC; Lisbon, the demo's zone, is an hour ahead of it in summer. */
const dates = [
  ["the last minutes of a year", "2027-12-31T23:56:00Z"],
  ["a leap day", "2028-02-29T09:00:00Z"],
  ["the day on which the clocks go forward", "2027-03-28T00:57:00Z"],
  ["the day on which the clocks go back", "2027-10-31T00:30:00Z"],
  ["the first minutes of a year, long ago", "2019-01-01T00:01:00Z"],
  ["a Tuesday during the clinic", "2031-06-10T09:40:00Z"],
];

/** Runs a program to its end with its clock set; true if it succeeded. */
const withClock = (at, args) =>
  new Promise((resolve) => {
    // By the difference to now: every process of the run then has the same time. Spans of time stay as they are.
    const ahead = Math.round((Date.parse(at) - Date.now()) / 1000);
    const child = spawn("faketime", ["-f", `${ahead < 0 ? "" : "+"}${ahead}s`, "node", ...args], {
      cwd: root,
      env: { ...process.env, FAKETIME_DONT_FAKE_MONOTONIC: "1" },
      stdio: "inherit",
    });
    child.on("exit", (code) => resolve(code === 0));
  });

await main(async () => {
  await ensurePackages();
  await ensureDebian(["chromium"], () => isFile("/usr/bin/chromium"));
  await ensureDebian(["faketime"], () => isFile("/usr/bin/faketime"));
  await ensureBuild();
  await ensureDemoBuild();
  const today = Math.floor(Date.now() / 86_400_000);
  const from = process.argv.includes("--from") ? Number(process.argv[process.argv.indexOf("--from") + 1]) - 1 : 0;
  const chosen = process.argv.includes("--one") ? [dates[today % dates.length]] : dates.slice(from);
  const whole = process.argv.includes("--whole") ? ["--whole"] : [];
  let failed = 0;
  for (const [what, at] of chosen) {
    console.log(`\n— ${at}: ${what}`);
    if (!(await withClock(at, ["scripts/lib/day.mjs", ...whole]))) failed += 1;
  }
  console.log(`\n${chosen.length - failed} passed, ${failed} failed`);
  process.exitCode = failed === 0 ? 0 : 1;
});
