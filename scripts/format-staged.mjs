// Before a commit: formats what is staged, and stages it so. A file of which only a part is staged is not touched; it must be
// formatted already. `npm run hooks` has git call this from then on (git config core.hooksPath).
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import * as prettier from "prettier";

const settings = fileURLToPath(new URL("..", import.meta.url));
const git = (...args) => {
  const done = spawnSync("git", args, { encoding: "utf8", maxBuffer: 100_000_000 });
  if (done.status !== 0) throw new Error(done.stderr);
  return done.stdout;
};
const names = (...args) =>
  git(...args, "--name-only", "-z")
    .split("\0")
    .filter(Boolean);

const top = git("rev-parse", "--show-toplevel").trim();
const inPart = new Set(names("diff"));
const wrong = [];
for (const name of names("diff", "--cached", "--diff-filter=ACMR")) {
  const file = join(top, name);
  if (!existsSync(file)) continue;
  const { ignored, inferredParser } = await prettier.getFileInfo(file, {
    ignorePath: join(settings, ".prettierignore"),
  });
  if (ignored || inferredParser === null) continue;
  const options = { ...(await prettier.resolveConfig(join(settings, "package.json"))), filepath: file };
  try {
    if (inPart.has(name)) {
      if (!(await prettier.check(git("show", `:${name}`), options)))
        wrong.push(`${name} is staged in part, and what is staged is not formatted: npm run format`);
      continue;
    }
    const text = readFileSync(file, "utf8");
    const formatted = await prettier.format(text, options);
    if (formatted === text) continue;
    writeFileSync(file, formatted);
    git("add", "--", file);
  } catch (error) {
    wrong.push(`${name} cannot be formatted: ${String(error.message).split("\n")[0]}`);
  }
}
for (const line of wrong) console.error(line);
process.exit(wrong.length === 0 ? 0 : 1);
