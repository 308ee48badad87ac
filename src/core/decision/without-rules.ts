import { cartSubtotal } from "../visit/cart-lines";
import type { ContentFiller } from "../content/format";
import type { Decision } from "./decision";
import type { Content } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { readMemory, writeMemory } from "../memory/memory";
import { NO } from "../rules/truth";
import type { Reading } from "../visit/reading";
import type { ReadySlot } from "./slots";

/** The value of something that may itself fail; then the other. */
function attempt<T>(work: () => T, otherwise: T): T {
  try {
    return work();
  } catch {
    return otherwise;
  }
}

/**
 * The decision that no variant's rule had a part in: the fallback of every slot that may be on the page, no redirect, no pop-up, the
 * cart at its prices, memory as it came in. It never throws.
 */
export function withoutRules(
  slots: readonly ReadySlot[],
  visit: Visit,
  filler: ContentFiller,
  reading: Reading,
): Decision {
  const fill = (content: Content | null) => content && attempt(() => filler.fill(content, reading, null), null);
  const subtotal = attempt(() => (reading.cartTold && visit.cart ? cartSubtotal(visit.cart.lines) : null), null);
  return {
    redirect: null,
    slots: Object.fromEntries(
      slots
        .filter(({ pages }) => attempt(() => pages(reading) !== NO, true))
        .map(({ slot }) => [slot.id, [{ variant: null, arm: null, content: fill(slot.fallback) }]]),
    ),
    popup: null,
    cart: subtotal === null ? null : { subtotal, adjustments: [], freeDelivery: false, total: subtotal, toGo: {} },
    markers: [],
    memory: visit.consent === true ? attempt(() => writeMemory(readMemory(visit.memory)), null) : null,
  };
}
