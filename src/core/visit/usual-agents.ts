/**
 * User agents as today's browsers send them: frozen texts in which little but the version changes. Whatever is written so is read by
 * one look; that it comes out as by all the patterns of `device.ts` is held by `tests/reference/devices.test.ts`.
 */
import type { Device } from "./device";

/** Chromium and what is made of it, with the device's name frozen to "K" on Android. */
const chromium =
  /^Mozilla\/5\.0 \((Windows NT 10\.0; Win64; x64|Macintosh; Intel Mac OS X 10_15_7|X11; Linux x86_64|X11; CrOS x86_64 14541\.0\.0|Linux; Android 10; K)\) AppleWebKit\/537\.36 \(KHTML, like Gecko\) Chrome\/(\d{2,3})\.0\.0\.0( Mobile)? Safari\/537\.36(?: (Edg|EdgA|OPR)\/(\d{2,3})\.[\d.]+)?$/;
const safari =
  /^Mozilla\/5\.0 \((iPhone; CPU iPhone OS [\d_]+ like Mac OS X|Macintosh; Intel Mac OS X 10_15_7)\) AppleWebKit\/605\.1\.15 \(KHTML, like Gecko\) Version\/(\d{1,2})\.[\d.]+( Mobile\/15E148)? Safari\/60[45]\.1(?:\.15)?$/;
const firefox =
  /^Mozilla\/5\.0 \((Windows NT 10\.0; Win64; x64|Macintosh; Intel Mac OS X 10\.15|X11; Linux x86_64|Android \d{1,2}; Mobile); rv:\d{2,3}\.0\) Gecko\/[\d.]+ Firefox\/(\d{2,3})\.0$/;

const systems: Record<string, string> = { W: "windows", M: "macos", X: "linux", L: "android", A: "android", i: "ios" };
const makers: Record<string, string> = { Edg: "edge", EdgA: "edge", OPR: "opera" };

/** The device of a user agent of today's browsers; undefined: it is another. */
export function usualDevice(ua: string): Device | undefined {
  const chrome = chromium.exec(ua);
  if (chrome) {
    const [, system = "", version, mobile, maker, own] = chrome;
    // On a computer nobody says Mobile.
    if (mobile !== undefined && system[0] !== "L") return undefined;
    return {
      kind: system[0] !== "L" ? "desktop" : mobile === undefined ? "tablet" : "phone",
      os: system.startsWith("X11; CrOS") ? "chromeos" : (systems[system[0] as string] as string),
      browser: maker === undefined ? "chrome" : (makers[maker] as string),
      version: Number(maker === undefined ? version : own),
    };
  }
  const apple = safari.exec(ua);
  if (apple) {
    const [, system = "", version, mobile] = apple;
    const phone = system[0] === "i";
    if (phone !== (mobile !== undefined)) return undefined;
    return {
      kind: phone ? "phone" : "desktop",
      os: systems[system[0] as string] as string,
      browser: "safari",
      version: Number(version),
    };
  }
  const fox = firefox.exec(ua);
  if (!fox) return undefined;
  const [, system = "", version] = fox;
  return {
    kind: system[0] === "A" ? "phone" : "desktop",
    os: systems[system[0] as string] as string,
    browser: "firefox",
    version: Number(version),
  };
}
