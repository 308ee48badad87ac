import type { FindingKind } from "@/core/analysis/findings";

/** What each kind of finding is called. */
export const titles: Record<FindingKind, string> = {
  "never-shown": "Shown to nobody",
  "always-beaten": "Never reached",
  "beaten-but": "Sometimes beaten",
  overlap: "Overlap",
  gap: "Nothing shown to some",
  idle: "Says nothing",
  "never-opens": "Can never hold",
  "clock-change": "Clock change",
  slip: "A slip?",
  loop: "Goes in circles",
  "popup-never": "Never opens",
  "audience-within": "One within another",
  promise: "Promise without an offer",
  "untold-offer": "Offer not announced",
  "offer-boundary": "Exactly at the threshold",
  "offers-apart": "Never together",
  currency: "Another currency",
  "dead-end": "Leads nowhere",
  drift: "The page has changed",
  "tag-gone": "The tag is gone",
};
