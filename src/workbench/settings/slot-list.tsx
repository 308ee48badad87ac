"use client";
import { t } from "@/core/messages/t";
import { To } from "../parts/desk/site-address";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { pasteParts, readParts, slotsFromCsv, type Parts } from "@/core/exchange/parts";
import { tableText } from "@/core/formats/table";
import type { Problem } from "@/core/formats/problem";
import { freshThingId, insertItem } from "@/core/draft/lists";
import { newSlot } from "@/core/draft/variants";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { useList } from "../parts/lists/use-list";
import { RuleSentence } from "../parts/sentence-text";
import { useCopied } from "../parts/copied";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { AddLine } from "./add-line";
import { Section } from "./section";

/** The slots of the site: places of its pages that hold variants. */
export function SlotList() {
  const { ruleset, draft } = useDesk();
  const list = useList("slots", t("Slot"), () => undefined);
  const copied = useCopied();
  const { enqueueSnackbar } = useSnackbar();
  const [problems, setProblems] = useState<readonly Problem[]>([]);
  const add = (name: string) => {
    const id = freshThingId(name, "slots", ruleset);
    draft.edit(t("Slot {name} is new", { name }), [insertItem(["slots"], newSlot(id, name), ruleset.slots.length)]);
  };
  const paste = (parts: Parts) => {
    const { edits, ids } = pasteParts(parts, ruleset);
    draft.edit(
      ids.length === 1
        ? t("Slot {slots} is new", { slots: parts.slots[0]?.name })
        : t("{ids} slots are new", { ids: ids.length }),
      edits,
    );
    enqueueSnackbar(t("{ids, plural, one {The slot is made} other {# slots are made}}", { ids: ids.length }));
  };
  const read = async (file: File) => {
    const bytes = tableText(new Uint8Array(await file.arrayBuffer()));
    const found =
      "problems" in bytes ? bytes : /^\s*\{/.test(bytes.text) ? readParts(bytes.text) : slotsFromCsv(bytes.text);
    setProblems("problems" in found ? found.problems.slice(0, 20) : []);
    if ("parts" in found && found.parts.slots.length > 0) paste(found.parts);
    else if ("parts" in found) setProblems([{ path: "", code: "empty", problem: t("There is no slot in this file.") }]);
  };
  return (
    <Section
      title={t("Slots")}
      says={t(
        "The places of the site’s pages that can hold variants. Point at a part of a page to make one (Add a slot, above the page), or have the place marked in the page, once, by the slot’s id.",
      )}
    >
      {ruleset.slots.map((slot) => (
        <div key={slot.id} className="row line">
          <To href={variantAddress(slot.id)}>
            <b>{slot.name}</b>
          </To>
          <code>{slot.id}</code>
          <span className="quiet" style={{ flex: 1 }}>
            <RuleSentence rule={slot.pages} names={ruleset} everyone={t("on every page")} />
          </span>
          <IconButton
            size="small"
            aria-label={t("Remove the slot {slot}", { slot: slot.name })}
            onClick={() => list.remove(slot.id)}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      <AddLine label={t("Name of a new slot")} button={t("Add a slot")} onAdd={add} />
      <div className="row">
        {copied && copied.slots.length > 0 && (
          <Button onClick={() => paste(copied)}>{t("Paste “{slots}”", { slots: copied.slots[0]?.name })}</Button>
        )}
        <Button component="label">
          {t("Read slots from a file")}
          <input
            type="file"
            accept=".csv,.json,text/csv,application/json"
            hidden
            aria-label={t("File of slots")}
            onChange={(event) => {
              const [file] = event.target.files ?? [];
              if (file) void read(file);
              event.target.value = "";
            }}
          />
        </Button>
        <span className="quiet">
          {t("CSV with the columns name, id, selector, how, path; or JSON as it is copied here")}
        </span>
      </div>
      {problems.map(({ path, problem }) => (
        <span key={`${path} ${problem}`} className="error" role="alert">
          {path ? `${path}: ` : ""}
          {problem}
        </span>
      ))}
    </Section>
  );
}
