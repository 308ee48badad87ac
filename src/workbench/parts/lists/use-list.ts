"use client";
import { t, within } from "@/core/messages/t";
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
    t("{count, plural, one {# {noun}} other {# {noun}s}}", { count, noun: within(noun) });
  const find = (id: string) => items.find((item) => item.id === id);
  return {
    items,
    add(item: Omit<Item, "id">, index = items.length): string {
      const id = freshThingId(item.name as string, list, ruleset);
      draft.edit(t("{noun} {name} is new", { noun, name: item.name }), [insertItem(at, { ...item, id }, index)]);
      return id;
    },
    copy(id: string): string | undefined {
      const item = find(id);
      if (!item) return undefined;
      const name = t("{name}, copy", { name: item.name });
      const fresh = freshThingId(name, list, ruleset);
      const copy = { ...structuredClone(item), id: fresh, name };
      draft.edit(t("A copy of {noun} {name}", { noun: within(noun), name: item.name }), [
        insertItem(at, copy, items.indexOf(item) + 1),
      ]);
      return fresh;
    },
    remove(id: string): void {
      const item = find(id);
      if (!item) return;
      const what = used(id);
      const uses = what ? usesOf(what, ruleset) : [];
      if (uses.length > 0) {
        enqueueSnackbar(
          t("“{name}” is used in {uses}{uses2}. Take it out there first.", {
            name: item.name,
            uses: uses
              .map((owner) => owner.name)
              .slice(0, 3)
              .join("; "),
            uses2: uses.length > 3 ? t(" and {uses} more", { uses: uses.length - 3 }) : "",
          }),
          { variant: "warning" },
        );
        return;
      }
      draft.edit(t("{noun} {name} deleted", { noun, name: item.name }), [removeItem(at, items, item)]);
      enqueueSnackbar(t("“{name}” is deleted", { name: item.name }), {
        action: createElement(Button, { onClick: () => draft.undoLast() }, t("Undo")),
      });
    },
    move(id: string, to: number): void {
      const item = find(id);
      if (item)
        draft.edit(t("Order of {noun} {name}", { noun: within(noun), name: item.name }), [
          moveItem(at, items, item, to),
        ]);
    },
    removeSeveral(ids: ReadonlySet<string>): void {
      const { edits, count, left } = removeThings(ruleset, list, ids, used);
      if (count > 0) draft.edit(t("{count} deleted", { count: number(count) }), edits);
      const stay = left.map(({ name }) => `“${name}”`).slice(0, 3);
      const says = [
        count > 0 ? t("{count} deleted.", { count: number(count) }) : "",
        left.length > 0
          ? t(
              "{stay}{left} {left2, plural, one {is} other {are}} used elsewhere and {left2, plural, one {stays} other {stay}}.",
              {
                stay: stay.join(", "),
                left: left.length > 3 ? t(" and {left} more", { left: left.length - 3 }) : "",
                left2: left.length,
              },
            )
          : "",
      ];
      enqueueSnackbar(says.filter(Boolean).join(" "), {
        ...(left.length > 0 ? { variant: "warning" as const } : {}),
        ...(count > 0 ? { action: createElement(Button, { onClick: () => draft.undoLast() }, t("Undo")) } : {}),
      });
    },
    switchSeveral: items.some((item) => "on" in item)
      ? (ids, on) => {
          const edits = switchThings(ruleset, list, ids, on);
          if (edits.length === 0) return void enqueueSnackbar(t("They are so already"));
          draft.edit(t("{edits} switched {on}", { edits: number(edits.length), on: on ? t("on") : t("off") }), edits);
          enqueueSnackbar(t("{edits} switched {on}.", { edits: number(edits.length), on: on ? t("on") : t("off") }), {
            action: createElement(Button, { onClick: () => draft.undoLast() }, t("Undo")),
          });
        }
      : undefined,
    set<K extends keyof Item & string>(item: Item, key: K, value: Item[K] | undefined, says: string): void {
      draft.edit(says, [setItem(at, item, key, value) as Edit]);
    },
  };
}
