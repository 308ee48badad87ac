/**
 * Devices and crawlers against labelled open corpora: the test data of ua-parser-js 1.0.2 (MIT), of woothee 1.11.1
 * (Apache-2.0) and crawler-user-agents (MIT). The corpora draw the borders of a class differently, so the share is stated.
 */
import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { readDevice } from "@/core/visit/device";
import { report } from "./report";

const load = (path: string) => JSON.parse(readFileSync(`node_modules/${path}`, "utf8"));
const cases = (name: string): { ua: string; expect: Record<string, string> }[] =>
  load(`ua-parser-corpus/test/${name}-test.json`);

it("tells phones and tablets apart", () => {
  const kinds: Record<string, string> = { mobile: "phone", tablet: "tablet" };
  const rows = cases("device").filter((row) => kinds[row.expect.type ?? ""]);
  const wrong: string[] = [];
  for (const row of rows)
    if (readDevice(row.ua)?.kind !== kinds[row.expect.type ?? ""]) wrong.push(`${row.expect.type}: ${row.ua}`);
  console.log(wrong.slice(0, 12).join("\n"));
  expect(report("phone or tablet, ua-parser-js corpus", rows.length - wrong.length, rows.length)).toBeGreaterThan(0.85);
});

it("names systems", () => {
  const names: Record<string, string> = {
    Windows: "windows",
    "Mac OS": "macos",
    iOS: "ios",
    Android: "android",
    "Chromium OS": "chromeos",
    Ubuntu: "linux",
    Linux: "linux",
    Debian: "linux",
    Fedora: "linux",
  };
  const rows = cases("os").filter((row) => names[row.expect.name ?? ""] && readDevice(row.ua)?.kind !== "bot");
  const agree = rows.filter((row) => {
    const os = readDevice(row.ua)?.os;
    return os === names[row.expect.name ?? ""] || (os === "ipados" && row.expect.name === "iOS");
  });
  expect(report("system, ua-parser-js corpus", agree.length, rows.length)).toBeGreaterThan(0.9);
});

it("names browsers and their major versions", () => {
  const names: Record<string, string> = {
    Chrome: "chrome",
    Firefox: "firefox",
    Edge: "edge",
    Safari: "safari",
    "Mobile Safari": "safari",
    Opera: "opera",
    "Opera Mobi": "opera",
    "Opera Mini": "opera",
    "Samsung Browser": "samsung",
  };
  const rows = cases("browser").filter((row) => names[row.expect.name ?? ""] && readDevice(row.ua)?.kind !== "bot");
  const agree = rows.filter((row) => {
    const device = readDevice(row.ua);
    return device?.browser === names[row.expect.name ?? ""] && device?.version === Number(row.expect.major);
  });
  expect(report("browser and version, ua-parser-js corpus", agree.length, rows.length)).toBeGreaterThan(0.8);
});

it("tells crawlers from browsers", () => {
  const crawlers: { instances: string[] }[] = load("crawler-user-agents/crawler-user-agents.json");
  const instances = crawlers.flatMap((item) => item.instances);
  const found = instances.filter((ua) => readDevice(ua)?.kind === "bot").length;
  expect(report("crawlers, crawler-user-agents", found, instances.length)).toBeGreaterThan(0.9);
  const people = [...cases("browser"), ...cases("device")].map((row) => row.ua);
  const taken = people.filter((ua) => readDevice(ua)?.kind !== "bot").length;
  expect(report("browsers not taken for crawlers, ua-parser-js corpus", taken, people.length)).toBeGreaterThan(0.95);
});
