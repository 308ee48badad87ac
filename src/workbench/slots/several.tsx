"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useState } from "react";
import type { Edit } from "@/core/draft/edit";
import { removeAll, removeSlots, switchAll, takeTo } from "@/core/draft/several";
import { pasteParts, takeParts } from "@/core/exchange/parts";
import type { Slot } from "@/core/formats/ruleset";
import { keepCopied, useCopied } from "../parts/copied";
import { useDesk } from "../parts/desk/desk";
import { saveFile } from "../parts/files";
import type { SlotRow, VariantRow } from "./rows";

const ofVariants = (count: number): string => t("{count, plural, one {# variant} other {# variants}}", { count });
const ofSlots = (count: number): string => t("{count, plural, one {# slot} other {# slots}}", { count });

/** Makes edits of several things at once, as one step, and offers to take it back. */
function useEdit(): (says: string, edits: readonly Edit[], more?: string) => void {
  const { draft } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  return (says, edits, more = "") => {
    if (edits.length === 0) return void enqueueSnackbar(more === "" ? t("They are so already") : more.trim());
    draft.edit(says, [...edits]);
    enqueueSnackbar(`${says}.${more}`, { action: <Button onClick={() => draft.undoLast()}>{t("Undo")}</Button> });
  };
}

/** A button that asks for a slot, and then does something with it. */
export function ToSlot({ name, onSlot }: { name: string; onSlot: (slot: Slot) => void }) {
  const { draft } = useDesk();
  const [at, setAt] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button aria-haspopup="dialog" onClick={(event) => setAt(event.currentTarget)}>
        {name}
      </Button>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => setAt(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { sx: { p: 3, width: 340 }, role: "dialog", "aria-label": name } }}
      >
        <Autocomplete
          openOnFocus
          options={draft.ruleset.slots}
          getOptionLabel={(slot) => slot.name}
          getOptionKey={(slot) => slot.id}
          onChange={(_, slot) => {
            if (!slot) return;
            setAt(null);
            onSlot(slot);
          }}
          renderInput={(input) => <TextField {...input} autoFocus label={t("To which slot")} />}
        />
      </Popover>
    </>
  );
}

/** What is done with several variants. */
export function SeveralVariants({ chosen, done }: { chosen: readonly VariantRow[]; done: () => void }) {
  const { draft, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const edit = useEdit();
  const number = ofVariants(chosen.length);
  const take = (slot: Slot, way: "move" | "copy") => {
    const { edits, ids, left } = takeTo(draft.ruleset, chosen, slot.id, way);
    const stays =
      left.length === 0
        ? ""
        : t(
            " {left} {left2, plural, one {changes} other {change}} what another place has, and {left2, plural, one {stays} other {stay}} there.",
            { left: left.map(({ name }) => `“${name}”`).join(", "), left2: left.length },
          );
    edit(
      t("{named} {way} to {slot}", {
        named: ofVariants(ids.length),
        way: way === "move" ? t("moved") : t("copied"),
        slot: slot.name,
      }),
      edits,
      way === "copy" && ids.length > 0
        ? t(" Copies are switched off until you switch them on.{stays}", { stays })
        : stays,
    );
    done();
  };
  return (
    <>
      <Button onClick={() => edit(t("{number} switched on", { number }), switchAll(draft.ruleset, chosen, true))}>
        {t("Switch on")}
      </Button>
      <Button onClick={() => edit(t("{number} switched off", { number }), switchAll(draft.ruleset, chosen, false))}>
        {t("Switch off")}
      </Button>
      <ToSlot name={t("Move to …")} onSlot={(slot) => take(slot, "move")} />
      <ToSlot name={t("Copy to …")} onSlot={(slot) => take(slot, "copy")} />
      <Button
        onClick={() =>
          void keepCopied(takeParts({ variants: chosen.map(({ item }) => item) }, ruleset)).then(() =>
            enqueueSnackbar(t("{number} copied: paste them on this screen, on any site", { number })),
          )
        }
      >
        {t("Copy for another site")}
      </Button>
      <Button
        onClick={() => {
          edit(t("{number} deleted", { number }), removeAll(draft.ruleset, chosen));
          done();
        }}
      >
        {t("Delete")}
      </Button>
    </>
  );
}

/** What is done with several slots. */
export function SeveralSlots({ chosen, done }: { chosen: readonly SlotRow[]; done: () => void }) {
  const { draft, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const edit = useEdit();
  const number = ofSlots(chosen.length);
  const slots = chosen.map(({ slot }) => slot);
  const all = slots.flatMap((slot) => slot.variants.map(({ id }) => ({ slot: slot.id, variant: id })));
  return (
    <>
      <Button
        onClick={() => edit(t("All variants of {number} switched on", { number }), switchAll(draft.ruleset, all, true))}
      >
        {t("Switch variants on")}
      </Button>
      <Button
        onClick={() =>
          edit(t("All variants of {number} switched off", { number }), switchAll(draft.ruleset, all, false))
        }
      >
        {t("Switch variants off")}
      </Button>
      <Button
        onClick={() =>
          void keepCopied(takeParts({ slots }, ruleset)).then(() =>
            enqueueSnackbar(t("{number} copied: paste them on this screen, on any site", { number })),
          )
        }
      >
        {t("Copy for another site")}
      </Button>
      <Button
        onClick={() =>
          saveFile("slots.json", JSON.stringify(takeParts({ slots }, ruleset), null, 2), "application/json")
        }
      >
        {t("Export")}
      </Button>
      <Button
        onClick={() => {
          edit(t("{number} deleted", { number }), removeSlots(draft.ruleset, new Set(slots.map(({ id }) => id))));
          done();
        }}
      >
        {t("Delete")}
      </Button>
    </>
  );
}

/** Pastes what was copied, on this site or another: slots, or variants into a slot. */
export function PasteCopied() {
  const { draft } = useDesk();
  const edit = useEdit();
  const copied = useCopied();
  const [slots, variants] = [copied?.slots.length ?? 0, copied?.variants.length ?? 0];
  const paste = (into?: Slot) => {
    if (!copied) return;
    const { edits, ids } = pasteParts(copied, draft.ruleset, into);
    edit(
      into
        ? t("{named} pasted into {into}", { named: ofVariants(ids.length), into: into.name })
        : t("{named} pasted", { named: ofSlots(ids.length) }),
      edits,
      into ? t(" They are switched off until you switch them on.") : "",
    );
  };
  if (slots > 0) return <Button onClick={() => paste()}>{t("Paste {named}", { named: ofSlots(slots) })}</Button>;
  if (variants > 0) return <ToSlot name={t("Paste {named} …", { named: ofVariants(variants) })} onSlot={paste} />;
  return null;
}
