import { t } from "../messages/t";
import type { PopupTrace } from "./decision";
import type { Popup, Ruleset } from "../formats/ruleset";
import { ruleText } from "../rules/sentence";

/** What a pop-up waits for, in words: "after 5 seconds". */
export function opensWords(opensAfter: Popup["opensAfter"]): string {
  const seconds = (count: number) => t("{count, plural, one {# second} other {# seconds}}", { count });
  if ("seconds" in opensAfter)
    return opensAfter.seconds === 0 ? t("at once") : t("after {seconds}", { seconds: seconds(opensAfter.seconds) });
  if ("scrollPercent" in opensAfter)
    return t("once {scrollPercent} % of the page is scrolled", { scrollPercent: opensAfter.scrollPercent });
  if ("leaving" in opensAfter) return t("when the pointer leaves the page");
  return t("after {idleSeconds} without a move", { idleSeconds: seconds(opensAfter.idleSeconds) });
}

/** How often a pop-up may open for one visitor, in words. */
export function capWords(cap: Popup["cap"]): string {
  if (!cap) return t("as often as its rule holds");
  if ("hours" in cap) return t("at most once in {hours, plural, one {an hour} other {# hours}}", { hours: cap.hours });
  return t("at most {times, plural, one {once} other {# times}} per {per}", {
    times: cap.times,
    per: cap.per === "ever" ? t("visitor") : cap.per === "visit" ? t("visit") : t("day"),
  });
}

/** What becomes of a pop-up for one visit, in words: "held back: its cap is reached". */
export function popupVerdict(popup: Popup, trace: PopupTrace | undefined, ruleset: Ruleset): string {
  const name = (id: string | undefined) => ruleset.popups.find((item) => item.id === id)?.name ?? id;
  switch (trace?.verdict) {
    case undefined:
      return t("cannot be judged yet");
    case "shown":
      return t("opens {opensAfter}", { opensAfter: opensWords(popup.opensAfter) });
    case "held back":
      return t("held back: {reason}", { reason: trace.reason });
    case "beaten":
      return t("not opened: “{by}” opens, and there is one at most", { by: name(trace.by) });
    case "not on this page":
      return t("not on this page: it is where {ruleText}", { ruleText: ruleText(popup.pages, ruleset) });
    case "rule unknown":
      return t("cannot tell: something its rule asks for is not known");
    case "rule false":
      return t("does not open for this visitor: it opens when {ruleText}", { ruleText: ruleText(popup.rule, ruleset) });
    case "off":
      return t("switched off");
  }
}
