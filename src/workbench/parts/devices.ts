import { said, text } from "@/core/messages/t";
import type { Visit } from "@/core/formats/visit";
import { readDevice } from "@/core/visit/device";

export type Width = "desktop" | "tablet" | "phone";
/** The widths at which a page is looked at, in CSS pixels. */
export const widths: Record<Width, number> = { desktop: 1180, tablet: 820, phone: 390 };

interface Preset {
  name: string;
  width: Width;
  userAgent: string;
  hints?: NonNullable<Visit["hints"]>;
}

/** Devices to look with. */
export const presets: readonly Preset[] = said([
  {
    name: text("Windows computer, Chrome"),
    width: "desktop",
    userAgent:
      "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36",
  },
  {
    name: text("Windows computer, Edge"),
    width: "desktop",
    userAgent:
      "Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36 Edg/142.0.0.0",
  },
  {
    name: text("Mac, Safari"),
    width: "desktop",
    userAgent:
      "Mozilla/5.0 (Macintosh; Intel Mac OS X 10_15_7) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Safari/605.1.15",
  },
  {
    name: text("Linux computer, Firefox"),
    width: "desktop",
    userAgent: "Mozilla/5.0 (X11; Linux x86_64; rv:145.0) Gecko/20100101 Firefox/145.0",
  },
  {
    name: text("iPad, Safari"),
    width: "tablet",
    userAgent:
      "Mozilla/5.0 (iPad; CPU OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
  },
  {
    name: text("Android tablet, Chrome"),
    width: "tablet",
    userAgent:
      "Mozilla/5.0 (Linux; Android 16; SM-X710) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Safari/537.36",
  },
  {
    name: text("iPhone, Safari"),
    width: "phone",
    userAgent:
      "Mozilla/5.0 (iPhone; CPU iPhone OS 18_7 like Mac OS X) AppleWebKit/605.1.15 (KHTML, like Gecko) Version/26.1 Mobile/15E148 Safari/604.1",
  },
  {
    name: text("Android phone, Chrome"),
    width: "phone",
    userAgent:
      "Mozilla/5.0 (Linux; Android 16; Pixel 9) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/142.0.0.0 Mobile Safari/537.36",
    hints: { mobile: true, platform: "Android", width: 390 },
  },
]);

/** The width at which a visitor's device shows a page. */
export const widthOf = (visit: Visit): Width => {
  const kind = readDevice(visit.userAgent, visit.hints)?.kind;
  return kind === "phone" || kind === "tablet" ? kind : "desktop";
};

/** A visit as from a device. */
export function withDevice(visit: Visit, { userAgent, hints }: Preset): Visit {
  const { userAgent: _userAgent, hints: _hints, ...base } = visit;
  return { ...base, userAgent, ...(hints ? { hints } : {}) };
}

/** The same visitor on a usual device of a kind. */
export const onDevice = (visit: Visit, kind: Width): Visit => {
  const preset = presets.find(({ width }) => width === kind);
  return preset ? withDevice(visit, preset) : visit;
};
