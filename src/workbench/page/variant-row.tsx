import { said, t, text } from "@/core/messages/t";
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
import { useDesk } from "../parts/desk/desk";
import { RuleSentence } from "../parts/sentence-text";
import { armName, colourOf, Swatch } from "../parts/variants";
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
    draft.edit(t("A copy of {variant}", { variant: variant.name }), added.edits);
    onOpen(added.id);
    enqueueSnackbar(copiedOff);
  };
  const drop = () => {
    draft.edit(t("{variant} deleted", { variant: variant.name }), remove(slot, variant, draft.ruleset));
    if (pinned) onPin(undefined);
    enqueueSnackbar(t("“{variant}” is deleted", { variant: variant.name }), {
      action: <Button onClick={() => draft.undoLast()}>{t("Undo")}</Button>,
    });
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
        aria-label={t("Move {variant}: press space, then the arrow keys", { variant: variant.name })}
      >
        <GripVertical size={14} />
      </button>
      <Swatch index={index} />
      <button type="button" className="open" onClick={() => onOpen(variant.id)}>
        {variant.name}
      </button>
      <span className={`verdict ${unfinished ? "unsure" : verdictWords("variant", trace?.verdict ?? "off").tone}`}>
        {variantVerdict(variant, trace, look, draft.ruleset, letter)}
        {pinned && t(" · pinned")}
        {paused && t(" · paused on the live site")}
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
          {t("A value is missing for this visitor ({token}): {took} in {field}.", {
            token: item.token,
            took: took[item.took],
            field: fieldName(draft.ruleset, variant, item.field),
          })}
        </div>
      ))}
      {nothingPicked && (
        <div className="missing">{t("No block of the library fits what it picks, so it is left out.")}</div>
      )}
      <div className="foot">
        {!won && !unfinished && <Reach slot={slot} variant={variant} />}
        {won && (
          <div className="reach">
            <button
              type="button"
              aria-label={t("Save as check that this visitor sees {variant}", { variant: variant.name })}
              onClick={() => void keepCheck({ slot: slot.id, variant: variant.id })}
            >
              {t("Save as check")}
            </button>
          </div>
        )}
        <div className="acts">
          <Act title={t("Edit {variant}", { variant: variant.name })} onClick={() => onOpen(variant.id)}>
            <Pencil size={14} />
          </Act>
          <Act
            title={t("Copy {variant}", { variant: variant.name })}
            onClick={(event) => (variant.arms.length > 1 ? setCopying(event.currentTarget) : copy())}
          >
            <Copy size={14} />
          </Act>
          <Menu open={copying !== null} anchorEl={copying} onClose={() => setCopying(null)}>
            <MenuItem onClick={() => copy()}>{t("With its test")}</MenuItem>
            {variant.arms
              .filter((arm) => arm.content)
              .map((arm) => (
                <MenuItem key={arm.id} onClick={() => copy(arm.id)}>
                  {t("Without the test: {arm} alone", { arm: armName(arm) })}
                </MenuItem>
              ))}
          </Menu>
          <PinAct
            on={pinned}
            onClick={(on) => onPin(on ? { slot: slot.id, variant: variant.id } : undefined)}
            name={variant.name}
          />
          <Act
            title={
              variant.on
                ? t("Switch {variant} off", { variant: variant.name })
                : t("Switch {variant} on", { variant: variant.name })
            }
            onClick={() =>
              draft.edit(t("{variant} switched {on}", { variant: variant.name, on: variant.on ? t("off") : t("on") }), [
                set(slot, variant, "on", !variant.on),
              ])
            }
          >
            {variant.on ? <Power size={14} /> : <PowerOff size={14} />}
          </Act>
          <Act title={t("Delete {variant}", { variant: variant.name })} onClick={drop}>
            <Trash2 size={14} />
          </Act>
        </div>
      </div>
    </div>
  );
}

/** What is not finished of a variant, in words. */
function unfinishedText({ path, code, problem }: Problem): string {
  if (code === "empty" && path.endsWith("/changes")) return t("Nothing is changed in it yet");
  if (code === "sum") return t("The shares of its arms do not add up to 100 %");
  return t("{includes}: a part {problem}", {
    includes: path.includes("/rule") ? t("Its rule") : t("Its content"),
    problem,
  });
}

const took = said({
  fallback: text("the fallback’s text is shown"),
  empty: text("nothing is shown"),
  "left out": text("the page’s own stays"),
});
