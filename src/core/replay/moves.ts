import type { Decision, Shown } from "../decision/decision";
import type { Content, Ruleset } from "../formats/ruleset";

/** A place of a page in which something else is shown (a slot, `*popup`, `*redirect`), with what is shown before and after. */
export type Move = readonly [place: string, before: string, after: string];

/**
 * Tells in which places of a page two decisions show something else, the first under one ruleset, the second under another.
 * Contents that are the same in both and hold no values of the visit need not be looked at each time.
 */
export function movesBetween(before: Ruleset, after: Ruleset): (a: Decision, b: Decision) => Move[] {
  const steady = new Set<string>();
  const plain = (a: Content | null, b: Content | null | undefined) =>
    b !== undefined && JSON.stringify(a) === JSON.stringify(b) && Object.keys(a?.tokens ?? {}).length === 0;
  for (const slot of before.slots) {
    const other = after.slots.find((item) => item.id === slot.id);
    // The fallback stands for an arm without content, and lends its texts where a value is missing.
    if (!other || !plain(slot.fallback, other.fallback)) continue;
    steady.add(`${slot.id}\nnull\nnull`);
    for (const variant of slot.variants)
      for (const arm of variant.arms) {
        const same = other.variants.find((item) => item.id === variant.id)?.arms.find((item) => item.id === arm.id);
        if (plain(arm.content, same?.content)) steady.add(`${slot.id}\n${variant.id}\n${arm.id}`);
      }
  }
  const alike = (slot: string, a: Shown | undefined, b: Shown | undefined): boolean =>
    a?.variant === b?.variant &&
    a?.arm === b?.arm &&
    (steady.has(`${slot}\n${a?.variant}\n${a?.arm}`) || JSON.stringify(a) === JSON.stringify(b));
  const names = (shown: Shown[] | undefined) => shown?.map((item) => item.variant ?? "fallback").join("+") ?? "";
  const popup = ({ popup: opened }: Decision) => JSON.stringify(opened && [opened.id, opened.arm, opened.content]);
  return (a, b) => {
    const out: Move[] = [];
    if (a.redirect?.location !== b.redirect?.location)
      out.push(["*redirect", a.redirect?.id ?? "", b.redirect?.id ?? ""]);
    // Where one of them sends on, the page itself cannot be compared.
    if (a.redirect || b.redirect) return out;
    for (const slot of new Set([...Object.keys(a.slots), ...Object.keys(b.slots)])) {
      const [left, right] = [a.slots[slot], b.slots[slot]];
      const same =
        left && right && left.length === right.length && left.every((item, index) => alike(slot, item, right[index]));
      if (!same) out.push([slot, names(left), names(right)]);
    }
    if ((a.popup || b.popup) && popup(a) !== popup(b)) out.push(["*popup", a.popup?.id ?? "", b.popup?.id ?? ""]);
    return out;
  };
}
