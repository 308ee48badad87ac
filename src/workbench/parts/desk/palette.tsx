"use client";
import { t } from "@/core/messages/t";
import Dialog from "@mui/material/Dialog";
import { useEffect, useMemo, useRef, useState } from "react";
import { finder } from "@/core/text/find";
import { useDesk, useNeeded } from "./desk";
import { addressOf, allScreens, variantAddress } from "./screens";
import { useGo } from "./use-go";

interface Entry {
  kind: string;
  name: string;
  take: () => void;
}

/** Reaches everything by a few letters: screens, pages, lenses, slots, variants and whatever else the draft has. Ctrl or ⌘ K. */
export function Palette({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "k") return;
      event.preventDefault();
      onOpen(true);
    };
    document.addEventListener("keydown", press);
    return () => document.removeEventListener("keydown", press);
  }, [onOpen]);
  return (
    <Dialog
      open={open}
      onClose={() => onOpen(false)}
      fullWidth
      maxWidth="sm"
      slotProps={{ paper: { "aria-label": t("Go anywhere") } }}
      sx={{ "& .MuiDialog-container": { alignItems: "flex-start", pt: "8vh" } }}
    >
      {open && <Entries close={() => onOpen(false)} />}
    </Dialog>
  );
}

function Entries({ close }: { close: () => void }) {
  const desk = useDesk();
  const whole = useNeeded("pages", "lenses", "links");
  const go = useGo();
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const list = useRef<HTMLUListElement>(null);
  const entries = useMemo(() => {
    const { ruleset, pages, lenses, links, look, pickLens, draft } = desk;
    const to = (kind: string, name: string, address: string): Entry => ({ kind, name, take: () => go(address) });
    const out: Entry[] = [
      ...allScreens.map((screen) => to(t("Screen"), screen.name, screen.path)),
      ...pages.map((page) => ({
        kind: "Look at",
        name: `${page.title} ${page.path}`,
        take: () => {
          const url = new URL(look.visit.url);
          url.pathname = page.path;
          look.setVisit({ ...look.visit, url: url.href });
          go("/pages");
        },
      })),
      ...lenses.map((lens) => ({ kind: "View as", name: lens.name, take: () => pickLens(lens) })),
      ...links.map((link) => to(t("Link"), link.name, addressOf("/links", link.id))),
      ...ruleset.slots.flatMap((slot) => [
        to(t("Slot"), slot.name, variantAddress(slot.id)),
        ...slot.variants.map((item) =>
          to(t("Variant"), `${slot.name}, ${item.name}`, variantAddress(slot.id, item.id)),
        ),
      ]),
      ...ruleset.audiences.map((item) => to(t("Audience"), item.name, addressOf("/audiences", item.id))),
      ...ruleset.placeLists.map((item) => to(t("Place list"), item.name, addressOf("/places", item.id))),
      ...ruleset.popups.map((item) => to("Pop-up", item.name, addressOf("/popups", item.id))),
      ...ruleset.goals.map((item) => to(t("Goal"), item.name, addressOf("/goals", item.id))),
      ...ruleset.redirects.map((item) => to(t("Redirect"), item.name, addressOf("/redirects", item.id))),
      ...ruleset.library.map((item) => to(t("Block"), item.name, addressOf("/library", item.id))),
      ...ruleset.offers.map((item) => to(t("Offer"), item.name, addressOf("/offers", item.id))),
      ...ruleset.markers.map((item) => to(t("Marker"), item.name, addressOf("/markers", item.id))),
    ];
    if (draft.undo) out.unshift({ kind: "Undo", name: draft.undo, take: draft.undoLast });
    if (draft.redo) out.unshift({ kind: "Redo", name: draft.redo, take: draft.redoNext });
    return out;
  }, [desk, go]);
  const has = finder(text);
  const found = entries.filter((entry) => has(`${entry.kind} ${entry.name}`)).slice(0, 60);
  const chosen = Math.min(at, found.length - 1);
  const take = (entry: Entry | undefined) => {
    if (!entry) return;
    close();
    entry.take();
  };
  const move = (to: number) => {
    setAt(to);
    list.current?.children[to]?.scrollIntoView({ block: "nearest" });
  };
  return (
    <div className="palette">
      <input
        autoFocus
        value={text}
        placeholder={t("Go to a screen, page, lens, variant …")}
        role="combobox"
        aria-label={t("Go to")}
        aria-expanded
        aria-controls="palette-list"
        aria-activedescendant={found[chosen] ? `palette-${chosen}` : undefined}
        onChange={(event) => {
          setText(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === "ArrowDown") move(Math.min(chosen + 1, found.length - 1));
          else if (event.key === "ArrowUp") move(Math.max(chosen - 1, 0));
          else if (event.key === "Enter") take(found[chosen]);
          else return;
          event.preventDefault();
        }}
      />
      <ul id="palette-list" role="listbox" ref={list} aria-label={t("What was found")}>
        {found.map((entry, index) => (
          <li
            key={`${entry.kind} ${entry.name} ${index}`}
            id={`palette-${index}`}
            role="option"
            aria-selected={index === chosen}
            onClick={() => take(entry)}
            onPointerMove={() => setAt(index)}
          >
            <span className="quiet">{entry.kind}</span> {entry.name}
          </li>
        ))}
        {found.length === 0 && (
          <li className="quiet">{whole ? t("Nothing here has that name.") : t("Still reading what there is …")}</li>
        )}
      </ul>
    </div>
  );
}
