"use client";
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

const named = (number: number, what: string): string => (number === 1 ? `1 ${what}` : `${number} ${what}s`);

/** Makes edits of several things at once, as one step, and offers to take it back. */
function useEdit(): (says: string, edits: readonly Edit[], more?: string) => void {
  const { draft } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  return (says, edits, more = "") => {
    if (edits.length === 0) return void enqueueSnackbar(more === "" ? "They are so already" : more.trim());
    draft.edit(says, [...edits]);
    enqueueSnackbar(`${says}.${more}`, { action: <Button onClick={() => draft.undoLast()}>Undo</Button> });
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
          renderInput={(input) => <TextField {...input} autoFocus label="To which slot" />}
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
  const number = named(chosen.length, "variant");
  const take = (slot: Slot, way: "move" | "copy") => {
    const { edits, ids, left } = takeTo(draft.ruleset, chosen, slot.id, way);
    const stays =
      left.length === 0
        ? ""
        : ` ${left.map(({ name }) => `“${name}”`).join(", ")} ${left.length === 1 ? "changes" : "change"} what another place has, and ${left.length === 1 ? "stays" : "stay"} there.`;
    edit(
      `${named(ids.length, "variant")} ${way === "move" ? "moved" : "copied"} to ${slot.name}`,
      edits,
      way === "copy" && ids.length > 0 ? ` Copies are switched off until you switch them on.${stays}` : stays,
    );
    done();
  };
  return (
    <>
      <Button onClick={() => edit(`${number} switched on`, switchAll(draft.ruleset, chosen, true))}>Switch on</Button>
      <Button onClick={() => edit(`${number} switched off`, switchAll(draft.ruleset, chosen, false))}>
        Switch off
      </Button>
      <ToSlot name="Move to …" onSlot={(slot) => take(slot, "move")} />
      <ToSlot name="Copy to …" onSlot={(slot) => take(slot, "copy")} />
      <Button
        onClick={() =>
          void keepCopied(takeParts({ variants: chosen.map(({ item }) => item) }, ruleset)).then(() =>
            enqueueSnackbar(`${number} copied: paste them on this screen, on any site`),
          )
        }
      >
        Copy for another site
      </Button>
      <Button
        onClick={() => {
          edit(`${number} deleted`, removeAll(draft.ruleset, chosen));
          done();
        }}
      >
        Delete
      </Button>
    </>
  );
}

/** What is done with several slots. */
export function SeveralSlots({ chosen, done }: { chosen: readonly SlotRow[]; done: () => void }) {
  const { draft, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const edit = useEdit();
  const number = named(chosen.length, "slot");
  const slots = chosen.map(({ slot }) => slot);
  const all = slots.flatMap((slot) => slot.variants.map(({ id }) => ({ slot: slot.id, variant: id })));
  return (
    <>
      <Button onClick={() => edit(`All variants of ${number} switched on`, switchAll(draft.ruleset, all, true))}>
        Switch variants on
      </Button>
      <Button onClick={() => edit(`All variants of ${number} switched off`, switchAll(draft.ruleset, all, false))}>
        Switch variants off
      </Button>
      <Button
        onClick={() =>
          void keepCopied(takeParts({ slots }, ruleset)).then(() =>
            enqueueSnackbar(`${number} copied: paste them on this screen, on any site`),
          )
        }
      >
        Copy for another site
      </Button>
      <Button
        onClick={() =>
          saveFile("slots.json", JSON.stringify(takeParts({ slots }, ruleset), null, 2), "application/json")
        }
      >
        Export
      </Button>
      <Button
        onClick={() => {
          edit(`${number} deleted`, removeSlots(draft.ruleset, new Set(slots.map(({ id }) => id))));
          done();
        }}
      >
        Delete
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
      into ? `${named(ids.length, "variant")} pasted into ${into.name}` : `${named(ids.length, "slot")} pasted`,
      edits,
      into ? " They are switched off until you switch them on." : "",
    );
  };
  if (slots > 0) return <Button onClick={() => paste()}>Paste {named(slots, "slot")}</Button>;
  if (variants > 0) return <ToSlot name={`Paste ${named(variants, "variant")} …`} onSlot={paste} />;
  return null;
}
