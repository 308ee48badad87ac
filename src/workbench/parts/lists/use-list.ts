"use client";
import { useSnackbar } from "notistack";
import { createElement } from "react";
import Button from "@mui/material/Button";
import { freshThingId, insertItem, moveItem, removeItem, setItem, type ListName, type Thing } from "@/core/draft/lists";
import type { Edit } from "@/core/draft/edit";
import { removeThings, switchThings } from "@/core/draft/several";
import type { SiteDraft } from "@/core/formats/site-draft";
import { usesOf, type Used } from "@/core/ruleset/uses";
import { useDesk } from "../desk/desk";

/** One list of the draft, and the ways to change it. */
export interface DraftList<Item extends Thing> {
  items: readonly Item[];
  /** Adds one and answers its id. */
  add: (item: Omit<Item, "id">, index?: number) => string;
  copy: (id: string) => string | undefined;
  /** Takes one out, unless something else leans on it: then it is said who. */
  remove: (id: string) => void;
  move: (id: string, to: number) => void;
  /** Takes several out, as one step; what something else leans on stays, and that is said. */
  removeSeveral: (ids: ReadonlySet<string>) => void;
  /** Switches several on or off, as one step; undefined: such things have no switch. */
  switchSeveral: ((ids: ReadonlySet<string>, on: boolean) => void) | undefined;
  /** Sets one property of an item; `says` names it: "Threshold of Spring". */
  set: <K extends keyof Item & string>(item: Item, key: K, value: Item[K] | undefined, says: string) => void;
}

/** The ways to change one list of the draft; `noun` names its things in undo and the audit trail. */
export function useList<L extends ListName>(
  list: L,
  noun: string,
  used: (id: string) => Used | undefined,
): DraftList<SiteDraft[L][number] & Thing> {
  type Item = SiteDraft[L][number] & Thing;
  const { draft, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  // Which list it is, is known to whoever calls: TypeScript does not follow a name into a union of lists.
  const items = ruleset[list] as unknown as Item[];
  const at = [list];
  const number = (count: number): string =>
    count === 1 ? `1 ${noun.toLowerCase()}` : `${count} ${noun.toLowerCase()}s`;
  const find = (id: string) => items.find((item) => item.id === id);
  return {
    items,
    add(item: Omit<Item, "id">, index = items.length): string {
      const id = freshThingId(item.name as string, list, ruleset);
      draft.edit(`${noun} ${item.name} is new`, [insertItem(at, { ...item, id }, index)]);
      return id;
    },
    copy(id: string): string | undefined {
      const item = find(id);
      if (!item) return undefined;
      const name = `${item.name}, copy`;
      const fresh = freshThingId(name, list, ruleset);
      const copy = { ...structuredClone(item), id: fresh, name };
      draft.edit(`A copy of ${noun.toLowerCase()} ${item.name}`, [insertItem(at, copy, items.indexOf(item) + 1)]);
      return fresh;
    },
    remove(id: string): void {
      const item = find(id);
      if (!item) return;
      const what = used(id);
      const uses = what ? usesOf(what, ruleset) : [];
      if (uses.length > 0) {
        enqueueSnackbar(
          `“${item.name}” is used in ${uses
            .map((owner) => owner.name)
            .slice(0, 3)
            .join("; ")}${uses.length > 3 ? ` and ${uses.length - 3} more` : ""}. Take it out there first.`,
          { variant: "warning" },
        );
        return;
      }
      draft.edit(`${noun} ${item.name} deleted`, [removeItem(at, items, item)]);
      enqueueSnackbar(`“${item.name}” is deleted`, {
        action: createElement(Button, { onClick: () => draft.undoLast() }, "Undo"),
      });
    },
    move(id: string, to: number): void {
      const item = find(id);
      if (item) draft.edit(`Order of ${noun.toLowerCase()} ${item.name}`, [moveItem(at, items, item, to)]);
    },
    removeSeveral(ids: ReadonlySet<string>): void {
      const { edits, count, left } = removeThings(ruleset, list, ids, used);
      if (count > 0) draft.edit(`${number(count)} deleted`, edits);
      const stay = left.map(({ name }) => `“${name}”`).slice(0, 3);
      const says = [
        count > 0 ? `${number(count)} deleted.` : "",
        left.length > 0
          ? `${stay.join(", ")}${left.length > 3 ? ` and ${left.length - 3} more` : ""} ${left.length === 1 ? "is" : "are"} used elsewhere and ${left.length === 1 ? "stays" : "stay"}.`
          : "",
      ];
      enqueueSnackbar(says.filter(Boolean).join(" "), {
        ...(left.length > 0 ? { variant: "warning" as const } : {}),
        ...(count > 0 ? { action: createElement(Button, { onClick: () => draft.undoLast() }, "Undo") } : {}),
      });
    },
    switchSeveral: items.some((item) => "on" in item)
      ? (ids, on) => {
          const edits = switchThings(ruleset, list, ids, on);
          if (edits.length === 0) return void enqueueSnackbar("They are so already");
          draft.edit(`${number(edits.length)} switched ${on ? "on" : "off"}`, edits);
          enqueueSnackbar(`${number(edits.length)} switched ${on ? "on" : "off"}.`, {
            action: createElement(Button, { onClick: () => draft.undoLast() }, "Undo"),
          });
        }
      : undefined,
    set<K extends keyof Item & string>(item: Item, key: K, value: Item[K] | undefined, says: string): void {
      draft.edit(says, [setItem(at, item, key, value) as Edit]);
    },
  };
}
