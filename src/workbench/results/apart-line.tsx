import { said, t, text } from "@/core/messages/t";
import type { Apart } from "@/core/formats/event";
import type { SlotCounts } from "@/server/types";
import { plain } from "../parts/numbers";

const kinds = { exposure: "exposure", click: "click", conversion: "goal" } as const;
const reasons: Record<Apart, string> = said({
  receipt: text(
    "came without the note that goes out with what is shown: told again, made up, or by pages that were open before there were any",
  ),
  bot: text("by crawlers"),
  value: text("with a value above the largest that counts (Settings)"),
  goal: text("for goals that are not declared, beyond the first hundred"),
});

/** What was told and is no result, with why. */
export function ApartLine({ apart }: { apart: SlotCounts["apart"] }) {
  const of = (reason: Apart) =>
    apart
      .filter((item) => item.apart === reason && item.count > 0)
      .map(({ kind, count }) => `${plain(count)} ${kinds[kind]}${count === 1 ? "" : "s"}`)
      .join(", ");
  const parts = (Object.keys(reasons) as Apart[]).flatMap((reason) => {
    const counts = of(reason);
    return counts === "" ? [] : [`${counts} ${reasons[reason]}`];
  });
  return parts.length === 0 ? null : (
    <span className="quiet" role="note" aria-label={t("Not counted")}>
      {t("Not counted: {parts}.", { parts: parts.join("; ") })}
    </span>
  );
}
