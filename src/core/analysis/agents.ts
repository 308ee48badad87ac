/** User agents of every kind of device, system and browser that signals tell apart; `{v}` is the browser's version. */
const webkit = "AppleWebKit/537.36 (KHTML, like Gecko)";
const chromium = [
  ["Chrome/{v}.0.0.0", ""],
  ["Chrome/{v}.0.0.0", " Edg/{v}.0.0.0"],
  ["Chrome/{v}.0.0.0", " OPR/{v}.0.0.0"],
] as const;
const desktops = [
  "Windows NT 10.0; Win64; x64",
  "Macintosh; Intel Mac OS X 10_15_7",
  "X11; Linux x86_64",
  "X11; CrOS x86_64 14541.0.0",
];

export const agents: readonly string[] = [
  ...desktops.flatMap((system) => [
    ...chromium.map(([browser, more]) => `Mozilla/5.0 (${system}) ${webkit} ${browser} Safari/537.36${more}`),
    `Mozilla/5.0 (${system}; rv:{v}.0) Gecko/20100101 Firefox/{v}.0`,
  ]),
  "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/{v}.0 Safari/605.1.15",
  "Mozilla/5.0 (Windows NT 6.1; WOW64; Trident/7.0; rv:11.0) like Gecko",
  ...["Linux; Android 16; Pixel 9", "Linux; Android 16; SM-X710"].flatMap((system) => {
    const mobile = system.includes("Pixel") ? " Mobile" : "";
    return [
      `Mozilla/5.0 (${system}) ${webkit} Chrome/{v}.0.0.0${mobile} Safari/537.36`,
      `Mozilla/5.0 (${system}) ${webkit} SamsungBrowser/{v}.0 Chrome/130.0.0.0${mobile} Safari/537.36`,
      `Mozilla/5.0 (${system}) ${webkit} Chrome/{v}.0.0.0${mobile} Safari/537.36 EdgA/{v}.0.0.0`,
      `Mozilla/5.0 (${system}) ${webkit} Chrome/{v}.0.0.0${mobile} Safari/537.36 OPR/{v}.0.0.0`,
    ];
  }),
  "Mozilla/5.0 (Android 16; Mobile; rv:{v}.0) Gecko/{v}.0 Firefox/{v}.0",
  ...["iPhone; CPU iPhone OS 18_7 like Mac OS X", "iPad; CPU OS 18_7 like Mac OS X"].flatMap((system) =>
    ["Version/{v}.0", "CriOS/{v}.0.0.0", "FxiOS/{v}.0", "EdgiOS/{v}.0", "OPT/{v}.0"].map(
      (browser) =>
        `Mozilla/5.0 (${system}) AppleWebKit/605.1.15 (KHTML, like Gecko) ${browser} Mobile/15E148 Safari/604.1`,
    ),
  ),
  `Mozilla/5.0 (X11; Linux x86_64) ${webkit} SamsungBrowser/{v}.0 Chrome/130.0.0.0 Safari/537.36`,
  ...["", " OPR/{v}.0.0.0", " EdgA/{v}.0.0.0"].map(
    (more) => `Mozilla/5.0 (Linux; Android 12; BRAVIA 4K) ${webkit} Chrome/{v}.0.0.0 Safari/537.36${more}`,
  ),
  "Mozilla/5.0 (compatible; Googlebot/2.1; +http://www.google.com/bot.html)",
  "Mozilla/5.0 (PlayStation 5 8.00) AppleWebKit/605.1.15 (KHTML, like Gecko)",
];

/** What client hints name systems by: they win over the user agent. */
export const platforms = ["Windows", "macOS", "Linux", "Chrome OS", "iOS", "iPadOS", "Android"] as const;
