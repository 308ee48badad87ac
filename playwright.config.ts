import { defineConfig } from "@playwright/test";
import { oneProcess } from "./tests/browser/launch";

const port = process.env.PORT ?? "4300";

export default defineConfig({
  testDir: "tests/browser",
  globalSetup: "./tests/browser/setup.ts",
  // Machines that run many things at once are slow: what comes late is still right.
  timeout: 150_000,
  expect: { timeout: 20_000 },
  workers: 1,
  retries: 0,
  reporter: "list",
  use: {
    baseURL: `http://localhost:${port}`,
    storageState: `.data/browser-state-${port}.json`,
    viewport: { width: 1280, height: 800 },
    // Moving parts cost a fifth of a run's processor; outcome.spec.ts is done with them.
    contextOptions: { reducedMotion: "reduce" },
    launchOptions: oneProcess,
  },
});
