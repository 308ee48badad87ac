import { said, text } from "@/core/messages/t";
import type { FindingKind } from "@/core/analysis/findings";

/** What each kind of finding is called. */
export const titles: Record<FindingKind, string> = said({
  "never-shown": text("Never shown"),
  "always-beaten": text("Never reached"),
  "beaten-but": text("Sometimes beaten"),
  overlap: text("Overlap"),
  gap: text("Nothing shown to some"),
  idle: text("Empty"),
  "never-opens": text("Can never match"),
  "clock-change": text("Clock change"),
  slip: text("Possible mistake"),
  loop: text("Redirect loop"),
  "popup-never": text("Never opens"),
  "audience-within": text("Audience within another"),
  promise: text("Promise without an offer"),
  "untold-offer": text("Offer not announced"),
  "offer-boundary": text("Exactly at the threshold"),
  "offers-apart": text("Never combined"),
  currency: text("Another currency"),
  "dead-end": text("Broken destination"),
  drift: text("The page has changed"),
  "tag-gone": text("The tag is gone"),
});
