/**
 * Devices and crawlers against labelled open corpora: the test data of ua-parser-js 1.0.2 (MIT), of woothee 1.11.1
 * (Apache-2.0) and crawler-user-agents (MIT). The corpora draw the borders of a class differently, so the share is stated.
 */
import { readdirSync, readFileSync } from "node:fs";
import Bowser from "bowser";
import { load as readYaml } from "js-yaml";
import { UAParser } from "ua-parser-js";
import { expect, it } from "vitest";
import { deviceByPatterns, readDevice } from "@/core/visit/device";
import { usualDevice } from "@/core/visit/usual-agents";
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

/**
 * Whether a package would read user agents better: bowser 2 and ua-parser-js 1 beside our reader, on corpora that none of the three
 * was made by: woothee's (labelled by hand), and visitors of some websites of this year (user-agents 2, BSD-2-Clause; labelled by
 * what their browsers say of themselves).
 */
interface Read {
  kind?: string | undefined;
  os?: string | undefined;
  browser?: string | undefined;
  version?: number | undefined;
}
const systemNamed = (name: string | undefined): string | undefined =>
  [
    [/^windows phone/i, "other"],
    [/^windows/i, "windows"],
    [/^mac ?os/i, "macos"],
    [/^ios$/i, "ios"],
    [/android/i, "android"],
    [/chrom(e|ium) os/i, "chromeos"],
    [/linux|ubuntu|debian|fedora/i, "linux"],
  ].find(([pattern]) => (pattern as RegExp).test(name ?? ""))?.[1] as string | undefined;
const browserNamed = (name: string | undefined): string | undefined =>
  [
    [/^(mobile )?chrome( mobile)?$/i, "chrome"],
    [/edge/i, "edge"],
    [/^(mobile )?firefox/i, "firefox"],
    [/^(mobile )?safari$/i, "safari"],
    [/^opera/i, "opera"],
  ].find(([pattern]) => (pattern as RegExp).test(name ?? ""))?.[1] as string | undefined;
const major = (version: string | undefined): number => parseInt(version ?? "", 10);
const others = ["smarttv", "console", "wearable", "embedded", "tv"];
const kindNamed = (type: string | undefined): string | undefined =>
  type === "mobile" ? "phone" : others.includes(type ?? "") ? "other" : type;

const readers: Record<string, (ua: string) => Read> = {
  Mirada: (ua) => readDevice(ua) ?? {},
  bowser(ua) {
    const { platform, os, browser } = Bowser.parse(ua || " ");
    return {
      kind: kindNamed(platform.type),
      os: systemNamed(os.name),
      browser: browserNamed(browser.name),
      version: major(browser.version),
    };
  },
  "ua-parser-js"(ua) {
    const { device, os, browser } = new UAParser(ua).getResult();
    return {
      // It names no desktops: whatever has a system and no kind is one.
      kind: kindNamed(device.type ?? (os.name ? "desktop" : undefined)),
      os: systemNamed(os.name),
      browser: browserNamed(browser.name),
      version: major(browser.version),
    };
  },
};

it("reads as well as packages do", () => {
  interface Labelled {
    target: string;
    name: string;
    version: string;
    os: string;
    category: string;
  }
  const folder = "node_modules/woothee/woothee/testsets";
  const rows = readdirSync(folder).flatMap(
    (file) => (readYaml(readFileSync(`${folder}/${file}`, "utf8")) ?? []) as Labelled[],
  );
  const kinds: Record<string, string[]> = {
    pc: ["desktop"],
    smartphone: ["phone", "tablet"],
    mobilephone: ["phone"],
    crawler: ["bot"],
    appliance: ["other"],
  };
  const systems: Record<string, string[]> = {
    Android: ["android"],
    iPhone: ["ios"],
    iPod: ["ios"],
    iPad: ["ipados", "ios"],
    "Mac OSX": ["macos"],
    Linux: ["linux"],
    ChromeOS: ["chromeos"],
  };
  const browsers = ["Chrome", "Firefox", "Edge", "Opera", "Safari"];
  const agree = new Map(Object.keys(readers).map((name) => [name, { kind: 0, os: 0, browser: 0, today: 0 }]));
  const of = { kind: 0, os: 0, browser: 0, today: 0 };
  const judge = (part: keyof typeof of, ua: string, right: (read: Read) => boolean) => {
    of[part] += 1;
    for (const [name, read] of Object.entries(readers)) if (right(read(ua))) (agree.get(name) as typeof of)[part] += 1;
  };
  for (const { target, name, version, os, category } of rows) {
    const kind = kinds[category];
    if (kind) judge("kind", target, (read) => kind.includes(read.kind ?? ""));
    if (!kind || category === "crawler") continue;
    const system = systems[os] ?? (/^Windows (?!Phone|CE)/.test(os) ? ["windows"] : undefined);
    if (system) judge("os", target, (read) => system.includes(read.os ?? ""));
    if (browsers.includes(name) && version !== "UNKNOWN")
      judge("browser", target, (read) => read.browser === name.toLowerCase() && read.version === major(version));
  }
  const visitors: { userAgent: string; deviceCategory: string }[] = load("user-agents/dist/user-agents.json");
  const today = new Map(visitors.map((one) => [one.userAgent, kindNamed(one.deviceCategory)]));
  for (const [ua, kind] of today) judge("today", ua, (read) => read.kind === kind);
  const words = { kind: "kind", os: "system", browser: "browser and version", today: "kind, visitors of today" };
  for (const part of ["kind", "os", "browser", "today"] as const)
    for (const [name, counts] of agree) report(`${name}, ${words[part]}`, counts[part], of[part]);
  const total = ({ kind, os, browser }: typeof of) => kind + os + browser;
  const all = [...agree].map(([name, counts]) => [name, total(counts)] as const).sort((a, b) => b[1] - a[1]);
  expect(all[0]?.[0]).toBe("Mirada");
  expect((agree.get("Mirada") as typeof of).today / of.today).toBeGreaterThan(0.97);
});

it("reads what browsers of today send at one look as by all patterns", () => {
  const crawlers: { instances: string[] }[] = load("crawler-user-agents/crawler-user-agents.json");
  const visitors: { userAgent: string }[] = load("user-agents/dist/user-agents.json");
  const systems = [
    ...[
      "Windows NT 10.0; Win64; x64",
      "Macintosh; Intel Mac OS X 10_15_7",
      "X11; Linux x86_64",
      "X11; CrOS x86_64 14541.0.0",
    ],
    ...[
      "Linux; Android 10; K",
      "iPhone; CPU iPhone OS 18_7 like Mac OS X",
      "Android 15; Mobile",
      "Macintosh; Intel Mac OS X 10.15",
    ],
  ];
  const made = systems.flatMap((system) =>
    [9, 48, 99, 142, 150].flatMap((version) => [
      ...["", " Mobile"].flatMap((mobile) =>
        ["", ` Edg/${version}.0.1.2`, ` EdgA/${version}.0.0.0`, ` OPR/${version - 5}.0.0.0`, " Vivaldi/7.1"].map(
          (maker) =>
            `Mozilla/5.0 (${system}) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/${version}.0.0.0${mobile} Safari/537.36${maker}`,
        ),
      ),
      ...["", " Mobile/15E148"].flatMap((mobile) =>
        ["604.1", "605.1.15"].map(
          (build) =>
            `Mozilla/5.0 (${system}) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/${Math.ceil(version / 10)}.6${mobile} Safari/${build}`,
        ),
      ),
      `Mozilla/5.0 (${system}; rv:${version}.0) Gecko/20100101 Firefox/${version}.0`,
    ]),
  );
  const all = new Set([
    ...made,
    ...visitors.map((one) => one.userAgent),
    ...crawlers.flatMap((one) => one.instances),
    ...[...cases("browser"), ...cases("device"), ...cases("os")].map((row) => row.ua),
  ]);
  let quick = 0;
  for (const ua of all) {
    const read = usualDevice(ua);
    if (!read) continue;
    quick += 1;
    expect([ua, read]).toEqual([ua, deviceByPatterns(ua)]);
  }
  expect(quick).toBeGreaterThan(150);
  // Of every hundred visitors, so many are read at one look.
  const share = visitors.filter((one) => usualDevice(one.userAgent)).length / visitors.length;
  console.log(`${Math.round(share * 100)} of a hundred visitors of user-agents, ${quick} of ${all.size} user agents`);
  expect(share).toBeGreaterThan(0.5);
});
