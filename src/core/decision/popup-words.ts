import type { PopupTrace } from "./decision";
import type { Popup, Ruleset } from "../formats/ruleset";
import { ruleText } from "../rules/sentence";

/** What a pop-up waits for, in words: "after 5 seconds". */
export function opensWords(opensAfter: Popup["opensAfter"]): string {
  const seconds = (count: number) => (count === 1 ? "1 second" : `${count} seconds`);
  if ("seconds" in opensAfter) return opensAfter.seconds === 0 ? "at once" : `after ${seconds(opensAfter.seconds)}`;
  if ("scrollPercent" in opensAfter) return `once ${opensAfter.scrollPercent} % of the page is scrolled`;
  if ("leaving" in opensAfter) return "when the pointer leaves the page";
  return `after ${seconds(opensAfter.idleSeconds)} without a move`;
}

/** How often a pop-up may open for one visitor, in words. */
export function capWords(cap: Popup["cap"]): string {
  if (!cap) return "as often as its rule holds";
  if ("hours" in cap) return `at most once in ${cap.hours === 1 ? "an hour" : `${cap.hours} hours`}`;
  return `at most ${cap.times === 1 ? "once" : `${cap.times} times`} per ${cap.per === "ever" ? "visitor" : cap.per}`;
}

/** What becomes of a pop-up for one visit, in words: "held back: its cap is reached". */
export function popupVerdict(popup: Popup, trace: PopupTrace | undefined, ruleset: Ruleset): string {
  const name = (id: string | undefined) => ruleset.popups.find((item) => item.id === id)?.name ?? id;
  switch (trace?.verdict) {
    case undefined:
      return "cannot be judged yet";
    case "shown":
      return `opens ${opensWords(popup.opensAfter)}`;
    case "held back":
      return `held back: ${trace.reason}`;
    case "beaten":
      return `not opened: “${name(trace.by)}” opens, and there is one at most`;
    case "not on this page":
      return `not on this page: it is where ${ruleText(popup.pages, ruleset)}`;
    case "rule unknown":
      return "cannot tell: something its rule asks for is not known";
    case "rule false":
      return `does not open for this visitor: it opens when ${ruleText(popup.rule, ruleset)}`;
    case "off":
      return "switched off";
  }
}
