import { fileURLToPath } from "node:url";
import { defineConfig } from "vitest/config";

const alias = { "@": fileURLToPath(new URL("./src", import.meta.url)) };
const project = (name: string, include: string[], testTimeout = 20_000, globalSetup: string[] = []) => ({
  resolve: { alias },
  test: { name, include, testTimeout, hookTimeout: testTimeout, globalSetup },
});

export default defineConfig({
  test: {
    projects: [
      project("unit", ["src/**/*.test.{ts,tsx}", "demo/**/*.test.ts"]),
      project("reference", ["tests/reference/**/*.test.ts"], 120_000),
      project("system", ["tests/system/**/*.test.ts"], 120_000, ["tests/system/setup.ts"]),
    ],
  },
});
