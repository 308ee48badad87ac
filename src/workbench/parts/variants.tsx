import type { Arm, Slot } from "@/core/formats/ruleset";
import { t } from "@/core/messages/t";

const colours = 8;
/** The colour of a variant by its place in the slot: the same on page, list and ribbon. */
export const colourOf = (index: number): string => `var(--v${(index % colours) + 1})`;
const hex = ["#1f6fb2", "#c2531b", "#12806a", "#a8447f", "#6b7a12", "#3f4fa8", "#8a5a2b", "#0f7c93"];
/** The same colour as a value, for the framed page, which does not know our tokens. */
export const hexOf = (index: number): string => (index < 0 ? "#7a776f" : (hex[index % colours] as string));

/** The letter that goes with the colour: A, B … Z, A2 … */
export const letterOf = (index: number): string =>
  `${String.fromCharCode(65 + (index % 26))}${index >= 26 ? Math.floor(index / 26) + 1 : ""}`;

export const indexIn = (slot: Slot, variant: string | null): number =>
  slot.variants.findIndex((item) => item.id === variant);

/** A variant's colour and letter, or the fallback's hatching. */
export function Swatch({ index }: { index: number }) {
  return index < 0 ? (
    <span className="swatch none" aria-hidden />
  ) : (
    <span className="swatch" style={{ background: colourOf(index) }}>
      {letterOf(index)}
    </span>
  );
}

/** The name of an arm, as people read it. */
export const armName = (arm: Arm): string =>
  arm.id === "control" ? t("Control") : arm.id.length === 1 ? arm.id.toUpperCase() : arm.id;
