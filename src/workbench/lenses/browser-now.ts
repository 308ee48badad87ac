import type { Visit } from "@/core/formats/visit";
import { nowText } from "@/clock";

/**
 * A visit as this browser would make now: its user agent and hints, languages, zone and width, and the address that the
 * server sees. It has not agreed to anything, carries no cookies and arrives directly.
 */
export async function browserNow(origin: string, askAddress: () => Promise<string | undefined>): Promise<Visit> {
  const { userAgent, languages } = navigator;
  const data = (navigator as { userAgentData?: { mobile: boolean; platform: string } }).userAgentData;
  const ip = await askAddress().catch(() => undefined);
  return {
    at: nowText(),
    url: `${origin}/`,
    userAgent,
    acceptLanguage: languages
      .map((language, index) => (index === 0 ? language : `${language};q=${Math.max(0.1, 1 - index / 10).toFixed(1)}`))
      .join(","),
    hints: {
      ...(data ? { mobile: data.mobile, platform: data.platform } : {}),
      width: window.innerWidth,
    },
    zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
    ...(ip ? { ip } : {}),
  };
}
