import { said, t, text } from "@/core/messages/t";
import type { HealthNow } from "@/server/types";

/** Failures of the last so many milliseconds are news. */
const lately = 3_600_000;

type Running = HealthNow["processes"][number];
export const processNames: Record<Running["kind"], string> = said({
  application: text("Workbench and the site’s own application"),
  delivery: text("Delivery server"),
  mirror: text("Mirror"),
});

export type ProcessWell = "answers" | "begins" | "silent";
export const wellOf = ({ ready, silent }: Pick<Running, "ready" | "silent">): ProcessWell =>
  silent ? "silent" : ready ? "answers" : "begins";

/** How long ago something was, in words. @param seconds at least 0 */
export function agoWords(seconds: number): string {
  if (seconds < 10) return t("just now");
  if (seconds < 120) return t("{count} seconds ago", { count: Math.floor(seconds) });
  if (seconds < 7200) return t("{count} minutes ago", { count: Math.floor(seconds / 60) });
  if (seconds < 172_800) return t("{count} hours ago", { count: Math.floor(seconds / 3600) });
  return t("{count} days ago", { count: Math.floor(seconds / 86_400) });
}

/** What is amiss just now, in sentences; none: all is well. @param now epoch milliseconds */
export function amiss({ processes, failures }: HealthNow, now: number): string[] {
  const out: string[] = [];
  const silent = processes.filter((one) => wellOf(one) === "silent");
  if (silent.length > 0)
    out.push(
      silent.length === 1
        ? t("{processNames} on {machine} is silent.", {
            processNames: processNames[(silent[0] as Running).kind],
            machine: (silent[0] as Running).machine,
          })
        : t("{silent} processes are silent.", { silent: silent.length }),
    );
  // Without one that delivers, nobody outside is served.
  if (!processes.some((one) => one.kind === "delivery" && wellOf(one) === "answers"))
    out.push(t("No delivery server answers: pages with the tag show their own content."));
  const lost = processes.reduce((sum, { refused, dropped }) => sum + refused + dropped, 0);
  if (lost > 0) out.push(t("{lost, plural, one {An event was not taken.} other {# events were not taken.}}", { lost }));
  const recent = failures.filter(({ last }) => now - Date.parse(last) < lately).length;
  if (recent > 0)
    out.push(
      t("{recent, plural, one {Something failed within the hour.} other {# things failed within the hour.}}", {
        recent,
      }),
    );
  return out;
}
