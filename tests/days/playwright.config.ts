import { defineConfig } from "@playwright/test";
import base from "../../playwright.config";

/** The walk through the demo on other dates: see scripts/days.mjs. */
export default defineConfig({ ...base, testDir: ".", globalSetup: "../browser/setup.ts" });
