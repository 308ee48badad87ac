import type { HealthNow } from "@/server/types";

/** Failures of the last so many milliseconds are news. */
const lately = 3_600_000;

type Running = HealthNow["processes"][number];
export const processNames: Record<Running["kind"], string> = {
  application: "Workbench and the site’s own application",
  delivery: "Delivery server",
  mirror: "Mirror",
};

export type ProcessWell = "answers" | "begins" | "silent";
export const wellOf = ({ ready, silent }: Pick<Running, "ready" | "silent">): ProcessWell =>
  silent ? "silent" : ready ? "answers" : "begins";

/** How long ago something was, in words. @param seconds at least 0 */
export function agoWords(seconds: number): string {
  if (seconds < 10) return "just now";
  const [count, unit] =
    seconds < 120
      ? [seconds, "seconds"]
      : seconds < 7200
        ? [seconds / 60, "minutes"]
        : seconds < 172_800
          ? [seconds / 3600, "hours"]
          : [seconds / 86_400, "days"];
  return `${Math.floor(count)} ${unit} ago`;
}

/** What is amiss just now, in sentences; none: all is well. @param now epoch milliseconds */
export function amiss({ processes, failures }: HealthNow, now: number): string[] {
  const out: string[] = [];
  const silent = processes.filter((one) => wellOf(one) === "silent");
  if (silent.length > 0)
    out.push(
      silent.length === 1
        ? `${processNames[(silent[0] as Running).kind]} on ${(silent[0] as Running).machine} is silent.`
        : `${silent.length} processes are silent.`,
    );
  // Without one that delivers, nobody outside is served.
  if (!processes.some((one) => one.kind === "delivery" && wellOf(one) === "answers"))
    out.push("No delivery server answers: pages with the tag show their own content.");
  const lost = processes.reduce((sum, { refused, dropped }) => sum + refused + dropped, 0);
  if (lost > 0) out.push(lost === 1 ? "An event was not taken." : `${lost} events were not taken.`);
  const recent = failures.filter(({ last }) => now - Date.parse(last) < lately).length;
  if (recent > 0)
    out.push(recent === 1 ? "Something failed within the hour." : `${recent} things failed within the hour.`);
  return out;
}
