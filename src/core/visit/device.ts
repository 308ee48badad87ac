import { isbot } from "isbot";
import { usualDevice } from "./usual-agents";

/** What a user agent and client hints say of a device (docs/engine.md, section 2). */
export interface Device {
  kind: "phone" | "tablet" | "desktop" | "bot" | "other";
  /** Undefined for bots. */
  os: string | undefined;
  browser: string | undefined;
  /** Major version; undefined for bots and other browsers. */
  version: number | undefined;
}

export const deviceKinds = ["phone", "tablet", "desktop", "bot", "other"] as const;
export const systems = ["windows", "macos", "linux", "chromeos", "ios", "ipados", "android", "other"] as const;
export const browsers = ["chrome", "edge", "firefox", "safari", "opera", "samsung", "other"] as const;

/** The first pattern that fits names the system. */
const osPatterns: [RegExp, string][] = [
  [/Windows Phone|Windows Mobile|Windows CE|IEMobile|Xbox/i, "other"],
  [/Windows/i, "windows"],
  [
    /Tizen|Web0S|webOS|KAIOS|HarmonyOS|OpenHarmony|PlayStation|Nintendo|Symbian|SymbOS|Series ?[346]0|BlackBerry|BB10|PlayBook|hpwOS|Bada|MeeGo|Maemo|Sailfish|AppleTV|tvOS|watchOS|Roku/i,
    "other",
  ],
  [/iPad/, "ipados"],
  [/iPhone|iPod/, "ios"],
  [/CrOS/, "chromeos"],
  [/Android|Silk(?!.*Mac)/i, "android"],
  [/Macintosh|Mac[ _]OS X|Mac_PowerPC/i, "macos"],
  [/Linux|Ubuntu|Fedora/i, "linux"],
];

const platforms: Record<string, string> = {
  windows: "windows",
  macos: "macos",
  linux: "linux",
  "chrome os": "chromeos",
  "chromium os": "chromeos",
  chromeos: "chromeos",
  ios: "ios",
  ipados: "ipados",
  android: "android",
};

/** Products that carry another browser's name beside their own. */
const foreign =
  /YaBrowser|Vivaldi|UCBrowser|UCWEB|UBrowser|DuckDuckGo|Ddg\/|Whale\/|MiuiBrowser|HuaweiBrowser|QQBrowser|MQQBrowser|MicroMessenger|Maxthon|Sogou|360SE|LBBROWSER|Coc_Coc|Puffin|Silk\/|Brave|Electron|PhantomJS|FBA[NV]|FB_IAB|Instagram|Snapchat|Line\/|GSA\/|Pinterest|Twitter|musical_ly|BytedanceWebview|Chromium\/|Iron\/|Epiphany|Konqueror|Falkon|QupZilla|Midori|OculusBrowser|HeyTapBrowser|VivoBrowser|baidubrowser|baiduboxapp|bdbrowser|Iceweasel|Seamonkey|PaleMoon|Waterfox|Basilisk|Camino|K-Meleon|Flock|RockMelt|Dolphin|NokiaBrowser|Kindle|Ecosia|Aloha|Klar\/|Focus\/|coc_coc|AvastSecureBrowser|Avast\/|AVG\/|Sleipnir|Comodo_Dragon|Iridium|Quark\/|MetaSr|TheWorld|2345Explorer|DingTalk|Swing\/|Iceape|IceDragon|IceCat|Namoroka|Minefield|Shiretoko|GranParadiso|BonEcho|conkeror|Fennec|OmniWeb|iCab|Shiira|NetFront|Obigo|Polaris|Skyfire|Bolt\/|Tizen|webOS|Web0S|hpwOS|BlackBerry|BB10|PlayBook|PlayStation|Nintendo|IEMobile|MSIE|Trident/i;

const browserPatterns: [RegExp, string][] = [
  [/(?:Edg|Edge|EdgA|EdgiOS)\/(\d+)/, "edge"],
  [/(?:OPR|OPiOS|OPT|OPX)\/(\d+)/, "opera"],
  [/Opera.*Version\/(\d+)/, "opera"],
  [/Opera(?: Mini| Mobi| Tablet)?[/ ](\d+)/, "opera"],
  [/SamsungBrowser\/(\d+)/, "samsung"],
];
const laterPatterns: [RegExp, string][] = [
  [/(?:Firefox|FxiOS)\/(\d+)/, "firefox"],
  [/; wv\)/, "other"],
  [/(?:Chrome|CriOS|CrMo)\/(\d+)/, "chrome"],
  [/(?:Macintosh|iPhone|iPad|iPod|Windows).*AppleWebKit.*Version\/(\d+).*Safari\//, "safari"],
];

const elsewhere =
  /SMART-?TV|SmartTV|\bTV\b|AppleTV|Apple TV|GoogleTV|Google TV|HbbTV|NetCast|NETTV|BRAVIA|CrKey|\bAFT[A-Z]|Roku|Web0S|DTV|PlayStation|Xbox|Nintendo|\bWatch\b|watchOS|SM-R\d|OculusBrowser|Quest \d|VIDAA|Viera|MiTV|MIBOX|SHIELD Android TV|Chromecast/i;
const tablets =
  /iPad|Tablet|PlayBook|Kindle|KF[A-Z]{2,4}[ )]|Silk(?!.*Mobile)|Nexus (?:7|9|10)\b|\bSM-[TPX]\d{3}|GT-[PN]\d{4}|SCH-I800|SGH-T849|\bXoom\b|MZ60|TouchPad|Transformer|Lenovo (?:TB|Tab|Idea)|\bTB-?\d|MediaPad|MatePad|MI PAD|Galaxy Tab|GalaxyTab|A1-8\d\d|Iconia|\bA\d{3}(?: Build|\))|Surface Pro X Mobile|Nook|BNTV|BNRV|\bFOLIO\b/i;
const phones =
  /iPhone|iPod|Mobi|Windows Phone|IEMobile|BlackBerry|BB10|Opera Mini|Opera Mobi|SymbianOS|Symbian|SymbOS|Series ?[346]0|MIDP|J2ME|Nokia|SonyEricsson|DoCoMo|KDDI|UP\.Browser|KAIOS|Windows CE|webOS|Palm|MOT-|SAMSUNG-[SG]|LG-|LGE|Vodafone|HTC|NetFront|Obigo|Fennec|Maemo|MeeGo|Phone/i;

function kindOf(ua: string): Device["kind"] {
  if (isbot(ua)) return "bot";
  if (elsewhere.test(ua)) return "other";
  const android = /Android/i.test(ua) && !/Windows Phone/i.test(ua);
  if (tablets.test(ua) && !/Tablet PC/i.test(ua) && !/\bMobile\b.*(?:Nook)/.test(ua)) return "tablet";
  if (android) return /Mobi|Opera Mini|Fennec/i.test(ua) || /Android 1\.|Android 2\./.test(ua) ? "phone" : "tablet";
  if (/Windows NT|Macintosh|CrOS|X11/i.test(ua) && !/Mobi|Phone|Maemo|webOS/i.test(ua)) return "desktop";
  if (phones.test(ua)) return "phone";
  if (/Windows|Linux|Mac_PowerPC|Mac OS|BSD|SunOS/i.test(ua)) return "desktop";
  return "other";
}

function browserOf(ua: string): { browser: string; version: number | undefined } {
  const first = (patterns: [RegExp, string][]) => {
    for (const [pattern, browser] of patterns) {
      const match = pattern.exec(ua);
      if (match) return { browser, version: match[1] === undefined ? undefined : Number(match[1]) };
    }
    return undefined;
  };
  const own = first(browserPatterns);
  if (own) return own;
  if (foreign.test(ua)) return { browser: "other", version: undefined };
  return first(laterPatterns) ?? { browser: "other", version: undefined };
}

/** Longer user agents than any real one are read in their first part only. */
const longest = 1024;

export interface Hints {
  mobile?: boolean | undefined;
  platform?: string | undefined;
}

/** Reads a user agent with client hints. Undefined without a user agent: the device is then unknown. */
export function readDevice(userAgent: string | undefined, hints: Hints = {}): Device | undefined {
  if (!userAgent) return undefined;
  const ua = userAgent.slice(0, longest);
  const device = usualDevice(ua) ?? deviceByPatterns(ua);
  if (device.kind === "bot" || (hints.platform === undefined && hints.mobile !== true)) return device;
  const named = hints.platform === undefined ? undefined : platforms[hints.platform.toLowerCase()];
  return {
    ...device,
    kind: device.kind === "desktop" && hints.mobile === true ? "phone" : device.kind,
    os: named ?? device.os,
  };
}

/** Reads a user agent by everything that is known of them. */
export function deviceByPatterns(ua: string): Device {
  const kind = kindOf(ua);
  if (kind === "bot") return { kind, os: undefined, browser: undefined, version: undefined };
  return { kind, os: osPatterns.find(([pattern]) => pattern.test(ua))?.[1] ?? "other", ...browserOf(ua) };
}

/** A reader of user agents that reads equal ones once; hints are read each time. Keeps at most so many. */
export function cachedDevices(most = 5000): typeof readDevice {
  const known = new Map<string, Device | undefined>();
  return (userAgent, hints) => {
    if (!userAgent || hints) return readDevice(userAgent, hints);
    if (known.has(userAgent)) return known.get(userAgent);
    const device = readDevice(userAgent);
    if (known.size >= most) known.delete(known.keys().next().value as string);
    known.set(userAgent, device);
    return device;
  };
}
