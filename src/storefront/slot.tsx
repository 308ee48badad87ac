import type { Answer } from "@/delivery/answer";
import { Block } from "./blocks";

/**
 * The place of a slot on a page. A visitor gets only what was decided; through a lens the place is there even when it is
 * empty, so that it can be found and clicked.
 */
export function Slot({ id, answer }: { id: string; answer: Answer }) {
  const shown = answer.decision.slots[id];
  if (!shown) return null;
  const blocks = shown.filter((item) => item.content !== null);
  if (blocks.length === 0 && !answer.look) return null;
  return (
    <div
      data-mirada-slot={id}
      // Only a lens is told which variants these are.
      data-mirada-variants={answer.look ? shown.map((item) => item.variant ?? "").join(" ") : undefined}
      data-mirada-empty={blocks.length === 0 ? "" : undefined}
    >
      {shown.map((item) => item.content && <Block key={item.variant ?? "fallback"} block={item.content} />)}
    </div>
  );
}
