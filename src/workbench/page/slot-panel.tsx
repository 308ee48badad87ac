"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import { Pencil, Settings2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { addBlank, addCopy, addFromFallback, addOwn, hasOwnContent, move } from "@/core/draft/variants";
import type { Slot } from "@/core/formats/ruleset";
import { ruleText } from "@/core/rules/sentence";
import type { Draft } from "../parts/desk/use-draft";
import type { Pinned } from "../parts/page-frame/page-frame";
import { pasteParts } from "@/core/exchange/parts";
import { useCopied } from "../parts/copied";
import { useDesk } from "../parts/desk/desk";
import { emptyWords } from "./empty-words";
import { HideMenu } from "./hide-menu";
import { EmptyWhy } from "./reach";
import { Act, copiedOff, PinAct } from "./row-acts";
import { SlotSettings } from "./later";
import { useSearch } from "../parts/lists/use-search";
import { SortableRows } from "../parts/sortable-rows";
import { indexIn, letterOf, Swatch } from "../parts/variants";
import type { Look } from "../parts/desk/use-look";
import { VariantRow } from "./variant-row";

export interface SlotPanelProps {
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
export function SlotPanel(props: SlotPanelProps) {
  const { slot, number, look, draft, pin, onPin, onOpen, setting, onSetting } = props;
  const { enqueueSnackbar } = useSnackbar();
  const [adding, setAdding] = useState<HTMLElement | null>(null);
  const trace = look.decision.trace?.slots.find((item) => item.id === slot.id);
  const letter = (id: string) => letterOf(indexIn(slot, id));
  const fallbackShown = trace?.fallback === "shown";
  const empty = look.decision.slots[slot.id]?.every((item) => item.content === null) === true;
  const fallbackText = slot.fallback
    ? String(slot.fallback.fields.headline ?? slot.fallback.fields.text ?? t("its content"))
    : undefined;
  const { lookedBy } = useDesk();
  const search = useSearch(
    slot.variants,
    t("variants"),
    (variant) => `${variant.name} ${ruleText(variant.rule, draft.ruleset)}`,
  );
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
          {t("{variants, plural, one {# variant} other {# variants}} and", { variants: slot.variants.length })}{" "}
          {slot.fallback ? t("a fallback") : t("no fallback")}
          {slot.take > 1 && t(", {take} at a time", { take: slot.take })}
        </span>
        <Act
          title={setting ? t("Close the slot’s settings") : t("The slot’s settings")}
          onClick={() => onSetting(!setting)}
        >
          <Settings2 size={15} />
        </Act>
      </div>
      <div className="slotscroll">
        {setting && <SlotSettings slot={slot} pages={trace?.pages} onPoint={props.onPoint} />}
        {empty && <EmptyWhy slot={slot} />}
        {search.field}
        <SortableRows
          items={slot.variants}
          onMove={(id, to) => {
            const variant = slot.variants.find((item) => item.id === id);
            if (variant) draft.edit(t("Order of {slot}", { slot: slot.name }), [move(slot, variant, to)]);
          }}
        >
          {search.found.map((variant) => (
            <VariantRow
              key={variant.id}
              {...props}
              variant={variant}
              index={slot.variants.indexOf(variant)}
              trace={trace?.variants.find((item) => item.id === variant.id)}
              missing={trace?.missing.filter((item) => item.variant === variant.id) ?? []}
              letter={letter}
            />
          ))}
        </SortableRows>
        {slot.variants.length === 0 && (
          <p className="quiet" style={{ padding: "14px 16px", margin: 0, borderBottom: "1px solid var(--hair)" }}>
            {t("Everyone sees {replace}. Copy it, change the copy, and say who sees that instead.", {
              replace: slot.fallback ? t("the fallback") : nobodys.replace(/ stands$| is shown$/, ""),
            })}
          </p>
        )}
        <div className={`variant${fallbackShown ? " win" : ""}`} style={{ "--c": "#8b887f" } as React.CSSProperties}>
          <span />
          <Swatch index={-1} />
          <button type="button" className="open" onClick={() => onOpen(null)}>
            {t("Fallback")}
          </button>
          <span className={`verdict${fallbackShown ? " yes" : ""}`}>
            {pin?.slot === slot.id && pin.variant === null ? t("Pinned") : fallbackShown ? t("Shown") : t("Not needed")}
          </span>
          <div className="rule">
            {t("for everyone else: {nobodys}", { nobodys: fallbackText ? `“${fallbackText}”` : nobodys })}
          </div>
          <div className="foot">
            <div className="acts">
              <Act title={t("Edit the fallback")} onClick={() => onOpen(null)}>
                <Pencil size={14} />
              </Act>
              <PinAct
                on={pin?.slot === slot.id && pin.variant === null}
                onClick={(on) => onPin(on ? { slot: slot.id, variant: null } : undefined)}
                name={t("the fallback")}
              />
            </div>
          </div>
        </div>
      </div>
      <div className="slotfoot">
        <Button variant="contained" onClick={(event) => setAdding(event.currentTarget)}>
          {t("Add a variant")}
        </Button>
        <Menu open={adding !== null} anchorEl={adding} onClose={() => setAdding(null)}>
          {ofThePage && hasOwnContent(slot) && (
            <MenuItem
              onClick={() => {
                setAdding(null);
                const added = addOwn(slot, draft.ruleset);
                draft.edit(t("A copy of what stands in {slot}", { slot: slot.name }), [added.edit]);
                onOpen(added.id);
                enqueueSnackbar(copiedOff);
              }}
            >
              {t("A copy of what stands there")}
            </MenuItem>
          )}
          <MenuItem
            onClick={() => {
              setAdding(null);
              const added = addBlank(slot, draft.ruleset);
              draft.edit(t("A new variant in {slot}", { slot: slot.name }), [added.edit]);
              onOpen(added.id);
              enqueueSnackbar(t("The new variant is switched off until you switch it on"));
            }}
          >
            {t("Blank")}
          </MenuItem>
          {slot.fallback && (
            <MenuItem
              onClick={() => {
                setAdding(null);
                const added = addFromFallback(slot, draft.ruleset);
                if (!added) return;
                draft.edit(t("A copy of the fallback in {slot}", { slot: slot.name }), [added.edit]);
                onOpen(added.id);
                enqueueSnackbar(copiedOff);
              }}
            >
              {t("A copy of the fallback")}
            </MenuItem>
          )}
          {copied && copied.variants.length > 0 && (
            <MenuItem
              onClick={() => {
                setAdding(null);
                const { edits, ids } = pasteParts(copied, draft.ruleset, slot);
                draft.edit(
                  t("{variants} pasted into {slot}", { variants: copied.variants[0]?.name, slot: slot.name }),
                  edits,
                );
                onOpen(ids[0] ?? null);
                enqueueSnackbar(t("What was pasted is switched off until you switch it on"));
              }}
            >
              {t("Paste “{variants}”", { variants: copied.variants[0]?.name })}
            </MenuItem>
          )}
          {slot.variants.map((variant, index) => (
            <MenuItem
              key={variant.id}
              onClick={() => {
                setAdding(null);
                const added = addCopy(slot, variant, draft.ruleset);
                draft.edit(t("A copy of {variant}", { variant: variant.name }), added.edits);
                onOpen(added.id);
                enqueueSnackbar(copiedOff);
              }}
            >
              {t("A copy of {index} {variant}", { index: letterOf(index), variant: variant.name })}
            </MenuItem>
          ))}
        </Menu>
        {slot.take === 1 && <HideMenu slot={slot} draft={draft} onOpen={onOpen} />}
      </div>
    </>
  );
}
