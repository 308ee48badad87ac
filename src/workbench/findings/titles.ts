import type { FindingKind } from "@/core/analysis/findings";

/** What each kind of finding is called. */
export const titles: Record<FindingKind, string> = {
  "never-shown": "Never shown",
  "always-beaten": "Never reached",
  "beaten-but": "Sometimes beaten",
  overlap: "Overlap",
  gap: "Nothing shown to some",
  idle: "Empty",
  "never-opens": "Can never match",
  "clock-change": "Clock change",
  slip: "Possible mistake",
  loop: "Redirect loop",
  "popup-never": "Never opens",
  "audience-within": "Audience within another",
  promise: "Promise without an offer",
  "untold-offer": "Offer not announced",
  "offer-boundary": "Exactly at the threshold",
  "offers-apart": "Never combined",
  currency: "Another currency",
  "dead-end": "Broken destination",
  drift: "The page has changed",
  "tag-gone": "The tag is gone",
};
