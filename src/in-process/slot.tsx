import type { Filled } from "@/core/content/format";
import { hiddenType } from "@/core/content/own";
import type { Answer } from "@/delivery/answer";
import type { BlockType } from "@/core/formats/ruleset";

interface Props {
  id: string;
  answer: Answer;
  /** Draws one block by its type's template. `frames`: hosts whose pages may stand in a frame. */
  block: (props: { block: Filled; frames: readonly string[]; types: readonly BlockType[] }) => React.ReactNode;
  /** Draws a block in the page's own way, instead of by its type's template; undefined where the slot shows nothing. */
  draw?: (block: Filled | undefined) => React.ReactNode;
}

/**
 * The place of a slot on a page. A visitor gets only what was decided; through a lens the place is there even when it is
 * empty, so that it can be found and clicked, unless the lens asks for the page just as it is.
 */
export function Slot({ id, answer, block: Block, draw }: Props) {
  const shown = answer.decision.slots[id];
  if (!shown) return draw?.(undefined) ?? null;
  // A place that is taken away for this visitor shows nothing, as a tagged page does.
  const isThere = ({ content }: (typeof shown)[number]) => content !== null && content.type !== hiddenType;
  const blocks = shown.filter(isThere);
  if (blocks.length === 0 && (!answer.look || answer.look.plain) && !draw) return null;
  const { blockTypes } = answer.ruleset;
  return (
    <div
      data-mirada-slot={id}
      // Only a lens is told which variants these are.
      data-mirada-variants={answer.look ? shown.map((item) => item.variant ?? "").join(" ") : undefined}
      data-mirada-empty={blocks.length === 0 && !draw ? "" : undefined}
      data-mirada-several={blocks.length > 1 ? "" : undefined}
    >
      {draw
        ? draw(blocks[0]?.content ?? undefined)
        : blocks.map(
            (item) =>
              item.content && (
                <Block
                  key={item.variant ?? "fallback"}
                  block={item.content}
                  frames={answer.otherHosts}
                  types={blockTypes}
                />
              ),
          )}
    </div>
  );
}
