import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { Copy, GripVertical, Pencil, Power, PowerOff, Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import type { SlotTrace, VariantTrace } from "@/core/decision/decision";
import { verdictWords } from "@/core/decision/verdicts";
import { reasonsFor } from "@/core/decision/why";
import { picksNothing } from "@/core/draft/picks";
import { addCopy, remove, set } from "@/core/draft/variants";
import type { Problem } from "@/core/formats/problem";
import type { Ruleset, Variant } from "@/core/formats/ruleset";
import { armName } from "../parts/content/arms-editor";
import { useDesk } from "../parts/desk/desk";
import { RuleSentence } from "../parts/sentence-text";
import { colourOf, Swatch } from "../parts/variants";
import { useKeepCheck } from "./keep-check";
import { Reach } from "./reach";
import { Act, copiedOff, PinAct } from "./row-acts";
import type { SlotPanelProps } from "./slot-panel";
import { variantVerdict } from "./verdict";

const fieldName = (ruleset: Ruleset, variant: Variant, field: string): string => {
  const types = variant.arms.map((arm) => arm.content?.type);
  const found = ruleset.blockTypes.filter((type) => types.includes(type.id)).flatMap((type) => type.fields);
  return found.find((item) => item.id === field)?.name ?? field;
};

/** A variant in its slot: its rule as a sentence, its verdict for this lens and why, and what can be done with it. */
export function VariantRow({
  slot,
  look,
  draft,
  pin,
  onPin,
  onOpen,
  variant,
  index,
  trace,
  missing,
  letter,
}: SlotPanelProps & {
  variant: Variant;
  index: number;
  trace: VariantTrace | undefined;
  missing: SlotTrace["missing"];
  letter: (id: string) => string;
}) {
  const { enqueueSnackbar } = useSnackbar();
  const { attributes, listeners, setNodeRef, transform, transition, isDragging } = useSortable({ id: variant.id });
  const unfinished = look.runnable.unfinished.get(variant.id);
  const won = trace?.verdict === "shown" || trace?.verdict === "remembered";
  const pinned = pin?.slot === slot.id && pin.variant === variant.id;
  const keepCheck = useKeepCheck();
  const paused = useDesk().pauses.some((pause) => pause.kind === "variant" && pause.id === variant.id);
  const nothingPicked = picksNothing(draft.ruleset, variant);
  const [copying, setCopying] = useState<HTMLElement | null>(null);
  /** @param arm without the test, that arm alone */
  const copy = (arm?: string) => {
    setCopying(null);
    const added = addCopy(slot, variant, draft.ruleset, arm);
    draft.edit(`A copy of ${variant.name}`, added.edits);
    onOpen(added.id);
    enqueueSnackbar(copiedOff);
  };
  const drop = () => {
    draft.edit(`${variant.name} deleted`, remove(slot, variant, draft.ruleset));
    if (pinned) onPin(undefined);
    enqueueSnackbar(`“${variant.name}” is deleted`, { action: <Button onClick={() => draft.undoLast()}>Undo</Button> });
  };
  return (
    <div
      ref={setNodeRef}
      className={`variant${won ? " win" : ""}`}
      data-variant={variant.id}
      style={
        {
          "--c": colourOf(index),
          transform: CSS.Translate.toString(transform),
          transition,
          zIndex: isDragging ? 2 : undefined,
          opacity: variant.on ? 1 : 0.72,
        } as React.CSSProperties
      }
    >
      <button
        type="button"
        className="grip"
        {...attributes}
        {...listeners}
        aria-label={`Move ${variant.name}: press space, then the arrow keys`}
      >
        <GripVertical size={14} />
      </button>
      <Swatch index={index} />
      <button type="button" className="open" onClick={() => onOpen(variant.id)}>
        {variant.name}
      </button>
      <span className={`verdict ${unfinished ? "unsure" : verdictWords("variant", trace?.verdict ?? "off").tone}`}>
        {variantVerdict(variant, trace, look, draft.ruleset, letter)}
        {pinned && " · pinned"}
        {paused && " · paused on the live site"}
      </span>
      <div className="rule">
        <RuleSentence rule={variant.rule} names={draft.ruleset} />
      </div>
      <div className="why">
        {unfinished
          ? unfinished.slice(0, 2).map((problem) => (
              <span key={problem.path} className="error">
                {unfinishedText(problem)}
              </span>
            ))
          : trace &&
            reasonsFor(trace, draft.ruleset).map((reason) => (
              <span key={reason.text}>
                <b className={reason.verdict === "true" ? "yes" : reason.verdict === "false" ? "no" : "unsure"}>
                  {reason.verdict === "true" ? "✓" : reason.verdict === "false" ? "✗" : "?"}
                </b>{" "}
                {reason.text}
              </span>
            ))}
      </div>
      {missing.map((item) => (
        <div key={item.field} className="missing" role="note">
          A value is missing for this visitor ({item.token}): {took[item.took]} in{" "}
          {fieldName(draft.ruleset, variant, item.field)}.
        </div>
      ))}
      {nothingPicked && <div className="missing">No block of the library fits what it picks, so it is left out.</div>}
      <div className="foot">
        {!won && !unfinished && <Reach slot={slot} variant={variant} />}
        {won && (
          <div className="reach">
            <button
              type="button"
              aria-label={`Save as check that this visitor sees ${variant.name}`}
              onClick={() => void keepCheck({ slot: slot.id, variant: variant.id })}
            >
              Save as check
            </button>
          </div>
        )}
        <div className="acts">
          <Act title={`Edit ${variant.name}`} onClick={() => onOpen(variant.id)}>
            <Pencil size={14} />
          </Act>
          <Act
            title={`Copy ${variant.name}`}
            onClick={(event) => (variant.arms.length > 1 ? setCopying(event.currentTarget) : copy())}
          >
            <Copy size={14} />
          </Act>
          <Menu open={copying !== null} anchorEl={copying} onClose={() => setCopying(null)}>
            <MenuItem onClick={() => copy()}>With its test</MenuItem>
            {variant.arms
              .filter((arm) => arm.content)
              .map((arm) => (
                <MenuItem key={arm.id} onClick={() => copy(arm.id)}>
                  Without the test: {armName(arm)} alone
                </MenuItem>
              ))}
          </Menu>
          <PinAct
            on={pinned}
            onClick={(on) => onPin(on ? { slot: slot.id, variant: variant.id } : undefined)}
            name={variant.name}
          />
          <Act
            title={variant.on ? `Switch ${variant.name} off` : `Switch ${variant.name} on`}
            onClick={() =>
              draft.edit(`${variant.name} switched ${variant.on ? "off" : "on"}`, [
                set(slot, variant, "on", !variant.on),
              ])
            }
          >
            {variant.on ? <Power size={14} /> : <PowerOff size={14} />}
          </Act>
          <Act title={`Delete ${variant.name}`} onClick={drop}>
            <Trash2 size={14} />
          </Act>
        </div>
      </div>
    </div>
  );
}

/** What is not finished of a variant, in words. */
function unfinishedText({ path, code, problem }: Problem): string {
  if (code === "empty" && path.endsWith("/changes")) return "Nothing is changed in it yet";
  if (code === "sum") return "The shares of its arms do not add up to 100 %";
  return `${path.includes("/rule") ? "Its rule" : "Its content"}: a part ${problem}`;
}

const took = {
  fallback: "the fallback’s text is shown",
  empty: "nothing is shown",
  "left out": "the page’s own stays",
} as const;
