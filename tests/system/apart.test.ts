/** Nothing in the product knows of the demo, and none of its own tests needs it. */
import { spawnSync } from "node:child_process";
import { readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

const tracked = spawnSync("git", ["ls-files", "-co", "--exclude-standard"], { encoding: "utf8" })
  .stdout.split("\n")
  .filter(Boolean);

describe("the product without the demo", () => {
  it("has no word of it in its code", () => {
    const words = /brackenfold|mossmail|quarry|stone.and.moss|lantern.quay|MIRADA_SITE/i;
    const files = tracked.filter((file) => /^src\/.*\.(ts|tsx|css|sql)$/.test(file) && !/\.test\.tsx?$/.test(file));
    expect(files.length).toBeGreaterThan(300);
    const found = files.filter((file) => words.test(readFileSync(file, "utf8")));
    // Migrations of before stay as they were applied.
    expect(found.filter((file) => !file.startsWith("src/data/migrations/0"))).toEqual([]);
    // Neither do its tests beside it need the demo.
    for (const file of tracked.filter((name) => /^src\/.*\.tsx?$/.test(name)))
      expect([file, /from "[^"]*demo\//.test(readFileSync(file, "utf8"))]).toEqual([file, false]);
  });
});
