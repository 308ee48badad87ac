"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useEffect, useState } from "react";
import { insertItem } from "@/core/draft/lists";
import { id as idSchema } from "@/core/formats/basics";
import { newSlot } from "@/core/draft/variants";
import { useDesk } from "../parts/desk/desk";
import type { PageLine } from "../parts/page-frame/page-line";

/** The name that an id suggests: “hero-line” is “Hero line”. */
const nameOf = (id: string): string => {
  const words = id.replace(/[-_]+/g, " ").trim();
  return words.charAt(0).toUpperCase() + words.slice(1);
};

/** Places that the page marks for slots which nobody has made yet, each with a way to make it. */
export function NewPlaces({ line, onOpen }: { line: PageLine; onOpen: (slot: string) => void }) {
  const { ruleset, draft } = useDesk();
  const [marked, setMarked] = useState<readonly string[]>([]);
  useEffect(
    () =>
      line.listen((message) => {
        if (message.mirada === "ready") setMarked([...new Set(message.slots)]);
      }),
    [line],
  );
  const fresh = marked.filter((id) => idSchema.safeParse(id).success && !ruleset.slots.some((slot) => slot.id === id));
  if (fresh.length === 0) return null;
  const make = (id: string) => {
    const slot = newSlot(id, nameOf(id));
    draft.edit(t("Slot {slot} is new", { slot: slot.name }), [insertItem(["slots"], slot, ruleset.slots.length)]);
    onOpen(id);
  };
  return (
    <div className="newplaces" role="status">
      <span>
        {t("{fresh, plural, one {# place on this page has} other {# places on this page have}} no slot yet:", {
          fresh: fresh.length,
        })}
      </span>
      {fresh.slice(0, 6).map((id) => (
        <Button key={id} size="small" onClick={() => make(id)}>
          {t("Make {id}", { id: nameOf(id) })}
        </Button>
      ))}
    </div>
  );
}
