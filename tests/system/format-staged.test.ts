/** What is committed is formatted before (scripts/format-staged.mjs), and nothing that was not staged comes along. */
import { spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { afterAll, beforeEach, expect, it } from "vitest";

const folder = mkdtempSync(join(tmpdir(), "mirada-staged-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const git = (...args: string[]) => {
  const done = spawnSync("git", args, { cwd: folder, encoding: "utf8" });
  expect(done.stderr.replace(/^warning:.*$/gm, "").trim()).toBe("");
  return done.stdout;
};
const hook = () => spawnSync("sh", [resolve("scripts/hooks/pre-commit")], { cwd: folder, encoding: "utf8" });
const write = (name: string, text: string) => writeFileSync(join(folder, name), text);
const onDisk = (name: string) => readFileSync(join(folder, name), "utf8");

beforeEach(() => {
  rmSync(join(folder, ".git"), { recursive: true, force: true });
  git("init", "-q");
});

it("formats and stages what is staged, and leaves the rest", () => {
  write("staged.ts", "const a={b:1}\n");
  write("other.ts", "const a={b:1}\n");
  write("text.unknown", "a  b");
  git("add", "staged.ts", "text.unknown");
  expect(hook().status).toBe(0);
  expect(git("show", ":staged.ts")).toBe("const a = { b: 1 };\n");
  expect(onDisk("staged.ts")).toBe("const a = { b: 1 };\n");
  expect(onDisk("other.ts")).toBe("const a={b:1}\n");
  expect(git("ls-files")).toBe("staged.ts\ntext.unknown\n");
});

it("refuses a file that is staged in part and not formatted, and changes nothing of it", () => {
  write("part.ts", "const a={b:1}\n");
  git("add", "part.ts");
  write("part.ts", "const a={b:1}\nconst c = 2;\n");
  const done = hook();
  expect(done.status).toBe(1);
  expect(done.stderr).toContain("part.ts is staged in part");
  expect(onDisk("part.ts")).toBe("const a={b:1}\nconst c = 2;\n");
  expect(git("show", ":part.ts")).toBe("const a={b:1}\n");
});

it("says which file cannot be read as what it is", () => {
  write("broken.ts", "const = ;\n");
  git("add", "broken.ts");
  const done = hook();
  expect(done.status).toBe(1);
  expect(done.stderr).toContain("broken.ts cannot be formatted");
});
