"use client";
import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { Copy, GripVertical, ListChecks, Pencil, Pin, PinOff, Power, PowerOff, Settings2, Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { picksNothing } from "@/core/draft/picks";
import { addBlank, addCopy, addFromFallback, addOwn, hasOwnContent, move, remove, set } from "@/core/draft/variants";
import type { SlotTrace, VariantTrace } from "@/core/decision/decision";
import type { Ruleset, Slot, Variant } from "@/core/formats/ruleset";
import { reasonsFor } from "@/core/decision/why";
import { RuleSentence } from "../parts/sentence-text";
import type { Draft } from "../parts/desk/use-draft";
import type { Pinned } from "../parts/page-frame/page-frame";
import { pasteParts } from "@/core/exchange/parts";
import { useCopied } from "../parts/copied";
import { useDesk } from "../parts/desk/desk";
import { emptyWords } from "./empty-words";
import { armName } from "../parts/content/arms-editor";
import { HideMenu } from "./hide-menu";
import { useKeepCheck } from "./keep-check";
import { EmptyWhy, Reach } from "./reach";
import { SlotSettings } from "./slot-settings";
import { SortableRows } from "../parts/sortable-rows";
import { colourOf, indexIn, letterOf, Swatch } from "../parts/variants";
import type { Look } from "../parts/desk/use-look";
import { variantVerdict } from "./verdict";

interface Props {
  slot: Slot;
  number: number;
  look: Look;
  draft: Draft;
  pin: Pinned | undefined;
  onPin: (pin: Pinned | undefined) => void;
  onOpen: (variant: string | null) => void;
  /** Points at another place for the slot; undefined where pages cannot be pointed at. */
  onPoint?: (() => void) | undefined;
  /** Whether its settings are open. */
  setting: boolean;
  onSetting: (open: boolean) => void;
}

/** The slot's variants from first to last, each with its rule as a sentence and its verdict for this lens. */
export function SlotPanel(props: Props) {
  const { slot, number, look, draft, pin, onPin, onOpen, setting, onSetting } = props;
  const { enqueueSnackbar } = useSnackbar();
  const [adding, setAdding] = useState<HTMLElement | null>(null);
  const trace = look.decision.trace?.slots.find((item) => item.id === slot.id);
  const letter = (id: string) => letterOf(indexIn(slot, id));
  const fallbackShown = trace?.fallback === "shown";
  const empty = look.decision.slots[slot.id]?.every((item) => item.content === null) === true;
  const fallbackText = slot.fallback
    ? String(slot.fallback.fields.headline ?? slot.fallback.fields.text ?? "its content")
    : undefined;
  const { lookedBy } = useDesk();
  const copied = useCopied();
  const nobodys = emptyWords(lookedBy).rest;
  // Where the page script fills the slots, what the page itself has can be changed.
  const ofThePage = lookedBy === "tag" && slot.take === 1;

  return (
    <>
      <div className="slothead">
        <span className="swatch number">{number > 0 ? number : "–"}</span>
        <h2>{slot.name}</h2>
        <span className="quiet">
          {slot.variants.length === 1 ? "1 variant" : `${slot.variants.length} variants`} and{" "}
          {slot.fallback ? "a fallback" : "no fallback"}
          {slot.take > 1 && `, ${slot.take} at a time`}
        </span>
        <Act title={setting ? "Close the slot’s settings" : "The slot’s settings"} onClick={() => onSetting(!setting)}>
          <Settings2 size={15} />
        </Act>
      </div>
      <div className="slotscroll">
        {setting && <SlotSettings slot={slot} pages={trace?.pages} onPoint={props.onPoint} />}
        {empty && <EmptyWhy slot={slot} />}
        <SortableRows
          items={slot.variants}
          onMove={(id, to) => {
            const variant = slot.variants.find((item) => item.id === id);
            if (variant) draft.edit(`Order of ${slot.name}`, [move(slot, variant, to)]);
          }}
        >
          {slot.variants.map((variant, index) => (
            <VariantRow
              key={variant.id}
              {...props}
              variant={variant}
              index={index}
              trace={trace?.variants.find((item) => item.id === variant.id)}
              missing={trace?.missing.filter((item) => item.variant === variant.id) ?? []}
              letter={letter}
            />
          ))}
        </SortableRows>
        {slot.variants.length === 0 && (
          <p className="quiet" style={{ padding: "14px 16px", margin: 0, borderBottom: "1px solid var(--hair)" }}>
            Everybody sees {slot.fallback ? "the fallback" : nobodys.replace(/ stands$| is shown$/, "")}. Copy it,
            change the copy, and say who sees that instead.
          </p>
        )}
        <div className={`variant${fallbackShown ? " win" : ""}`} style={{ "--c": "#8b887f" } as React.CSSProperties}>
          <span />
          <Swatch index={-1} />
          <button type="button" className="open" onClick={() => onOpen(null)}>
            Fallback
          </button>
          <span className={`verdict${fallbackShown ? " yes" : ""}`}>
            {pin?.slot === slot.id && pin.variant === null ? "Pinned" : fallbackShown ? "Shown" : "Not needed"}
          </span>
          <div className="rule">for everyone else: {fallbackText ? `“${fallbackText}”` : nobodys}</div>
          <div className="acts">
            <Act title="Edit the fallback" onClick={() => onOpen(null)}>
              <Pencil size={14} />
            </Act>
            <PinAct
              on={pin?.slot === slot.id && pin.variant === null}
              onClick={(on) => onPin(on ? { slot: slot.id, variant: null } : undefined)}
              name="the fallback"
            />
          </div>
        </div>
      </div>
      <div className="slotfoot">
        <Button variant="contained" onClick={(event) => setAdding(event.currentTarget)}>
          Add a variant
        </Button>
        <Menu open={adding !== null} anchorEl={adding} onClose={() => setAdding(null)}>
          {ofThePage && hasOwnContent(slot) && (
            <MenuItem
              onClick={() => {
                setAdding(null);
                const added = addOwn(slot, draft.ruleset);
                draft.edit(`A copy of what stands in ${slot.name}`, [added.edit]);
                onOpen(added.id);
                enqueueSnackbar("The copy is switched off until you switch it on");
              }}
            >
              A copy of what stands there
            </MenuItem>
          )}
          <MenuItem
            onClick={() => {
              setAdding(null);
              const added = addBlank(slot, draft.ruleset);
              draft.edit(`A new variant in ${slot.name}`, [added.edit]);
              onOpen(added.id);
              enqueueSnackbar("The new variant is switched off until you switch it on");
            }}
          >
            Blank
          </MenuItem>
          {slot.fallback && (
            <MenuItem
              onClick={() => {
                setAdding(null);
                const added = addFromFallback(slot, draft.ruleset);
                if (!added) return;
                draft.edit(`A copy of the fallback in ${slot.name}`, [added.edit]);
                onOpen(added.id);
                enqueueSnackbar("The copy is switched off until you switch it on");
              }}
            >
              A copy of the fallback
            </MenuItem>
          )}
          {copied && copied.variants.length > 0 && (
            <MenuItem
              onClick={() => {
                setAdding(null);
                const { edits, ids } = pasteParts(copied, draft.ruleset, slot);
                draft.edit(`${copied.variants[0]?.name} pasted into ${slot.name}`, edits);
                onOpen(ids[0] ?? null);
                enqueueSnackbar("What was pasted is switched off until you switch it on");
              }}
            >
              Paste “{copied.variants[0]?.name}”
            </MenuItem>
          )}
          {slot.variants.map((variant, index) => (
            <MenuItem
              key={variant.id}
              onClick={() => {
                setAdding(null);
                const added = addCopy(slot, variant, draft.ruleset);
                draft.edit(`A copy of ${variant.name}`, added.edits);
                onOpen(added.id);
                enqueueSnackbar(copiedOff);
              }}
            >
              A copy of {letterOf(index)} {variant.name}
            </MenuItem>
          ))}
        </Menu>
        {slot.take === 1 && <HideMenu slot={slot} draft={draft} onOpen={onOpen} />}
      </div>
    </>
  );
}

function Act({
  title,
  onClick,
  children,
}: {
  title: string;
  onClick: (event: React.MouseEvent<HTMLElement>) => void;
  children: React.ReactNode;
}) {
  return (
    <Tooltip title={title}>
      <IconButton size="small" aria-label={title} onClick={onClick}>
        {children}
      </IconButton>
    </Tooltip>
  );
}
function PinAct({ on, onClick, name }: { on: boolean; onClick: (on: boolean) => void; name: string }) {
  return (
    <Act
      title={on ? `Unpin ${name}` : `Pin ${name}: show it on the page whatever its rule says`}
      onClick={() => onClick(!on)}
    >
      {on ? <PinOff size={14} /> : <Pin size={14} />}
    </Act>
  );
}

const copiedOff = "The copy is switched off until you switch it on";

const fieldName = (ruleset: Ruleset, variant: Variant, field: string): string => {
  const types = variant.arms.map((arm) => arm.content?.type);
  const found = ruleset.blockTypes.filter((type) => types.includes(type.id)).flatMap((type) => type.fields);
  return found.find((item) => item.id === field)?.name ?? field;
};

const tones: Partial<Record<VariantTrace["verdict"], string>> = {
  shown: "yes",
  remembered: "yes",
  "rule false": "no",
  "rule unknown": "unsure",
};

function VariantRow({
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
}: Props & {
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
      <span className={`verdict ${unfinished ? "unsure" : (tones[trace?.verdict ?? "off"] ?? "")}`}>
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
                {/\/changes$/.test(problem.path)
                  ? "Nothing is changed in it yet"
                  : /\/arms$/.test(problem.path)
                    ? "The shares of its arms do not add up to 100 %"
                    : `${problem.path.includes("/rule") ? "Its rule" : "Its content"}: a part ${problem.problem}`}
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
      {!won && !unfinished && <Reach slot={slot} variant={variant} />}
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
        {won && (
          <Act
            title={`Keep as a check that this visitor sees ${variant.name}`}
            onClick={() => void keepCheck({ slot: slot.id, variant: variant.id })}
          >
            <ListChecks size={14} />
          </Act>
        )}
        <PinAct
          on={pinned}
          onClick={(on) => onPin(on ? { slot: slot.id, variant: variant.id } : undefined)}
          name={variant.name}
        />
        <Act
          title={variant.on ? `Switch ${variant.name} off` : `Switch ${variant.name} on`}
          onClick={() =>
            draft.edit(`${variant.name} switched ${variant.on ? "off" : "on"}`, [set(slot, variant, "on", !variant.on)])
          }
        >
          {variant.on ? <Power size={14} /> : <PowerOff size={14} />}
        </Act>
        <Act title={`Delete ${variant.name}`} onClick={drop}>
          <Trash2 size={14} />
        </Act>
      </div>
    </div>
  );
}

const took = {
  fallback: "the fallback’s text is shown",
  empty: "nothing is shown",
  "left out": "the page’s own stays",
} as const;
