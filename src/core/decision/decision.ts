import type { OfferVerdict } from "../cart/offers";
import type { Filled, Missing } from "../content/format";
import type { MarkerVerdict } from "../memory/markers";
import type { MemoryJson } from "../memory/memory";
import type { RuleTrace } from "../rules/evaluate";
import type { TruthName } from "../rules/truth";
import type { Popup, Redirect } from "../formats/ruleset";

/** What is shown in one place of a slot. The fallback has variant and arm null. */
export interface Shown {
  variant: string | null;
  arm: string | null;
  content: Filled | null;
}

/** A decision (docs/engine.md, section 13): what one visit gets. */
export interface Decision {
  redirect: { id: string; status: Redirect["status"]; location: string } | null;
  slots: Record<string, Shown[]>;
  popup: {
    id: string;
    arm: string;
    opensAfter: Popup["opensAfter"];
    size: Popup["size"];
    content: Filled | null;
  } | null;
  cart: {
    subtotal: number;
    adjustments: { offer: string; label: string; amount: number }[];
    freeDelivery: boolean;
    total: number;
    toGo: Record<string, number>;
  } | null;
  markers: string[];
  memory: MemoryJson | unknown | null;
  trace?: Trace;
}

export type VariantVerdict =
  | "shown"
  | "remembered"
  | "pinned"
  | "beaten"
  | "held out"
  | "not on this page"
  | "rule false"
  | "rule unknown"
  | "off";

export interface VariantTrace {
  id: string;
  verdict: VariantVerdict;
  /** The variants that took the places, where it was beaten. */
  by?: string[];
  /** It was shown lately enough to count as eligible whatever its rule says. */
  remembered?: true;
  rule: RuleTrace;
}
export interface SlotTrace {
  id: string;
  /** Whether the slot is on this page: only true lets it answer. */
  onPage: TruthName;
  pages: RuleTrace;
  variants: VariantTrace[];
  fallback: "shown" | "not needed" | "not on this page";
  missing: (Missing & { variant: string | null })[];
}
export interface PopupTrace {
  id: string;
  verdict: "shown" | "off" | "not on this page" | "rule false" | "rule unknown" | "held back" | "beaten";
  reason?: string;
  by?: string;
  pages: RuleTrace;
  rule: RuleTrace;
}
export interface RedirectTrace {
  id: string;
  verdict: "applies" | "off" | "rule false" | "rule unknown" | "would loop" | "not applicable" | "beaten";
  reason?: string;
  rule: RuleTrace;
}
export interface OfferTrace {
  id: string;
  verdict: OfferVerdict | "not applicable";
  qualifying?: number;
  discount?: number;
  toGo?: number;
  rule: RuleTrace;
}
export interface MarkerTrace {
  id: string;
  verdict: MarkerVerdict | "not kept: no consent";
  count: number;
  gain: RuleTrace;
  lose: RuleTrace | null;
}
/** Why a decision came out as it did. */
export interface Trace {
  redirects: RedirectTrace[];
  slots: SlotTrace[];
  popups: PopupTrace[];
  offers: OfferTrace[];
  markers: MarkerTrace[];
  /** Data values whose kind is not the declared one: they counted as absent. */
  misfits: string[];
}
