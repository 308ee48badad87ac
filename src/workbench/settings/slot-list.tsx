"use client";
import { To } from "../parts/desk/site-address";
import { freshThingId, insertItem } from "@/core/draft/lists";
import type { Slot } from "@/core/formats/ruleset";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { useList } from "../parts/lists/use-list";
import { RuleSentence } from "../parts/sentence-text";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { AddLine } from "./add-line";
import { Section } from "./section";

/** The slots of the site: places of its pages that hold variants. */
export function SlotList() {
  const { ruleset, draft } = useDesk();
  const list = useList("slots", "Slot", () => undefined);
  const add = (name: string) => {
    const id = freshThingId(name, "slots", ruleset);
    const slot: Slot = { id, name, pages: null, take: 1, variants: [], fallback: null };
    draft.edit(`Slot ${name} is new`, [insertItem(["slots"], slot, ruleset.slots.length)]);
  };
  return (
    <Section
      title="Slots"
      says="The places of the site’s pages that can hold variants. The developer places a slot once, by its id; one that no template places stands at the end of the page."
    >
      {ruleset.slots.map((slot) => (
        <div key={slot.id} className="row line">
          <To href={variantAddress(slot.id)}>
            <b>{slot.name}</b>
          </To>
          <code>{slot.id}</code>
          <span className="quiet" style={{ flex: 1 }}>
            <RuleSentence rule={slot.pages} names={ruleset} everyone="on every page" />
          </span>
          <IconButton size="small" aria-label={`Remove the slot ${slot.name}`} onClick={() => list.remove(slot.id)}>
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      <AddLine label="Name of a new slot" button="Add a slot" onAdd={add} />
    </Section>
  );
}
