"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useSnackbar } from "notistack";
import type { ListChanged, ListItems } from "@/server/types";
import { whyNot, type Actions } from "../actions";
import { useDesk } from "./desk";

/** Lists whose things are kept one by one, as they are worked on. */
type KeptList = "lenses" | "links" | "checks";
type Changing = { [L in KeptList]: [keep: (items: ListItems[L][]) => Promise<ListChanged<L>>, drop: Dropping<L>] };
type Dropping<L extends KeptList> = (id: string) => Promise<ListChanged<L>>;

/** What is on its way of each list: one save goes after the other. `latest` counts them. */
interface OnItsWay {
  before: Promise<unknown>;
  latest: number;
}
const underWay = new WeakMap<Actions, Map<KeptList, OnItsWay>>();
function onItsWay(actions: Actions, name: KeptList): OnItsWay {
  const lists = underWay.get(actions) ?? new Map<KeptList, OnItsWay>();
  underWay.set(actions, lists);
  const one = lists.get(name) ?? { before: Promise.resolve(), latest: 0 };
  lists.set(name, one);
  return one;
}

/**
 * Keeps things of a list, and deletes them. What is kept is shown at once, so that the next change builds on it; should the server
 * not take it, that is said and what stood there before is shown again.
 */
export function useKeep<L extends KeptList>(name: L) {
  const { lists, actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const changing: Changing = {
    lenses: [actions.keepLenses, actions.dropLens],
    links: [actions.keepLinks, actions.dropLink],
    checks: [actions.keepChecks, actions.dropCheck],
  };
  const [save, remove] = changing[name];

  /** @returns whether they are kept */
  const keep = async (items: readonly ListItems[L][]): Promise<boolean> => {
    const way = onItsWay(actions, name);
    const mine = ++way.latest;
    /** What stood there before, by id; undefined: nothing did. */
    const before = new Map<string, ListItems[L] | undefined>(items.map(({ id }) => [id, undefined]));
    lists.show(name, (now) => {
      for (const item of now) if (before.has(item.id)) before.set(item.id, item);
      return [
        ...now.map((item) => items.find(({ id }) => id === item.id) ?? item),
        ...items.filter(({ id }) => before.get(id) === undefined),
      ];
    });
    const saved = way.before.then(() => save([...items]));
    way.before = saved.catch(() => undefined);
    try {
      const answer = await saved;
      // What was changed meanwhile is newer than what an earlier save kept.
      lists.changed(name, mine === way.latest ? answer : { ...answer, kept: [] });
      return true;
    } catch (error) {
      if (mine === way.latest)
        lists.show(name, (now) => now.flatMap((item) => (before.has(item.id) ? (before.get(item.id) ?? []) : item)));
      enqueueSnackbar(t("Not saved: {error}", { error: whyNot(error) }), { variant: "error" });
      return false;
    }
  };
  /** @param says that they are deleted; bringing them back is offered beside */
  const dropAll = async (items: readonly ListItems[L][], says: string): Promise<void> => {
    const way = onItsWay(actions, name);
    const gone: ListItems[L][] = [];
    let problem: unknown;
    for (const item of items) {
      const one = way.before.then(() => remove(item.id));
      way.before = one.catch(() => undefined);
      try {
        lists.changed(name, await one, item.id);
        gone.push(item);
      } catch (error) {
        problem = error;
        break;
      }
    }
    if (gone.length > 0)
      enqueueSnackbar(
        gone.length === items.length
          ? says
          : t("{gone} of {items} are deleted", { gone: gone.length, items: items.length }),
        {
          action: <Button onClick={() => void keep(gone)}>{t("Bring back")}</Button>,
        },
      );
    if (problem) enqueueSnackbar(t("Not deleted: {problem}", { problem: whyNot(problem) }), { variant: "error" });
  };
  const drop = (item: ListItems[L], says: string): Promise<void> => dropAll([item], says);
  return { keep, drop, dropAll };
}
