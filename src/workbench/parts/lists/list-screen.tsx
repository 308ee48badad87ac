"use client";
import { t, within } from "@/core/messages/t";
import { useSortable } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import IconButton from "@mui/material/IconButton";
import Tooltip from "@mui/material/Tooltip";
import { Copy, GripVertical, Trash2 } from "lucide-react";
import { useSearchParams } from "next/navigation";
import { useState } from "react";
import type { Thing } from "@/core/draft/lists";
import { addressOf } from "../desk/screens";
import { useScreen } from "../desk/site-address";
import { useGo } from "../desk/use-go";
import { Panel } from "../panel";
import { Portion } from "./portion";
import { useSearch } from "./use-search";
import { SortableRows } from "../sortable-rows";
import type { DraftList } from "./use-list";

/** What a list screen says of one thing, beside its name. */
export interface Row {
  /** Under the name: a sentence, a count. */
  says: React.ReactNode;
  /** At the right: the verdict for the lens at hand. */
  verdict?: React.ReactNode;
  dim?: boolean;
  /** Words beside the name by which it is found. */
  words?: string;
}

interface Props<Item extends Thing> {
  title: string;
  /** What such a thing is for, in a sentence; shown where there are none. */
  teaches: string;
  list: DraftList<Item>;
  row: (item: Item) => Row;
  /** The name of the button that adds one, such as "New audience". */
  adding: string;
  /** What a new one is like. */
  fresh: () => Omit<Item, "id">;
  /** Whether order matters: then rows can be dragged, and moved by keyboard. */
  ordered?: boolean;
  /** What stands above the list, such as how order works. */
  note?: React.ReactNode;
  /** The editor of the one that is open. */
  children: (item: Item) => React.ReactNode;
}

/** A list at the left, searched and ordered, and the one that is open at the right. The address says which. */
export function ListScreen<Item extends Thing>(props: Props<Item>) {
  const { title, teaches, list, row, adding, fresh, ordered = false, note, children } = props;
  const { items } = list;
  const go = useGo();
  const path = useScreen();
  const wanted = useSearchParams().get("open");
  // What was chosen here opens at once; the address follows, and wins again when it is changed from elsewhere.
  const [chosen, setChosen] = useState<{ id: string | undefined; before: string | null }>();
  const follows = chosen && (wanted === chosen.before || wanted === (chosen.id ?? null));
  const asked = follows ? (chosen.id ?? null) : wanted;
  const open = items.find((item) => item.id === asked) ?? (asked === null ? items[0] : undefined);
  const show = (id: string | undefined) => {
    setChosen({ id, before: wanted });
    go(id === undefined ? path : addressOf(path, id), { replace: true });
  };
  const rows = items.map((item) => ({ item, ...row(item) }));
  const search = useSearch(rows, within(title), ({ item, words = "" }) => `${item.name} ${words}`);
  const { found } = search;
  /** What is chosen to be worked on at once; undefined: rows are opened one by one. */
  const [several, setSeveral] = useState<ReadonlySet<string>>();
  // What is not shown just now is not worked on.
  const worked = new Set(found.flatMap(({ item }) => (several?.has(item.id) ? [item.id] : [])));
  return (
    <main className="listscreen">
      <section className="list" aria-label={title}>
        <div className="listhead">
          <h1>{title}</h1>
          {items.length > 1 && (
            <Button variant="text" onClick={() => setSeveral(several ? undefined : new Set())}>
              {several ? t("Choose none") : t("Choose several")}
            </Button>
          )}
          <Button variant="contained" onClick={() => show(list.add(fresh()))}>
            {adding}
          </Button>
        </div>
        {search.field}
        {note && rows.length > 0 && <p className="quiet note">{note}</p>}
        {rows.length === 0 && <p className="teaches">{teaches}</p>}
        <div className="rows">
          <SortableRows items={items} onMove={list.move}>
            <Portion items={found} at={found.find(({ item }) => item === open)}>
              {({ item, ...said }) => (
                <RowView
                  key={item.id}
                  item={item}
                  {...said}
                  open={item.id === open?.id}
                  sortable={ordered && found.length === rows.length && several === undefined}
                  chosen={several?.has(item.id)}
                  onChoose={(on) => {
                    const next = new Set(several);
                    if (on) next.add(item.id);
                    else next.delete(item.id);
                    setSeveral(next);
                  }}
                  onOpen={() => show(item.id)}
                  onCopy={() => show(list.copy(item.id))}
                  onRemove={() => list.remove(item.id)}
                />
              )}
            </Portion>
          </SortableRows>
        </div>
        {several && (
          <div className="severalbar" role="toolbar" aria-label={t("What is chosen of {title}", { title })}>
            <b role="status">{t("{size} chosen", { size: worked.size })}</b>
            <Button onClick={() => setSeveral(new Set(found.map(({ item }) => item.id)))}>{t("Choose all")}</Button>
            {list.switchSeveral && (
              <>
                <Button disabled={worked.size === 0} onClick={() => list.switchSeveral?.(worked, true)}>
                  {t("Switch on")}
                </Button>
                <Button disabled={worked.size === 0} onClick={() => list.switchSeveral?.(worked, false)}>
                  {t("Switch off")}
                </Button>
              </>
            )}
            <Button
              disabled={worked.size === 0}
              onClick={() => {
                list.removeSeveral(worked);
                setSeveral(undefined);
              }}
            >
              {t("Delete")}
            </Button>
          </div>
        )}
      </section>
      <section className="opened" aria-label={open?.name ?? title}>
        {open ? (
          <Panel key={open.id} name={open.name} of={[open]}>
            {children(open)}
          </Panel>
        ) : (
          <p className="quiet" style={{ padding: 24 }}>
            {rows.length === 0 ? t("“{adding}” makes the first one.", { adding }) : t("Choose one from the list.")}
          </p>
        )}
      </section>
    </main>
  );
}

interface RowProps extends Row {
  item: Thing;
  open: boolean;
  sortable: boolean;
  /** Whether it is among those that are chosen; undefined: none are to be chosen. */
  chosen: boolean | undefined;
  onChoose: (on: boolean) => void;
  onOpen: () => void;
  onCopy: () => void;
  onRemove: () => void;
}

function RowView({ item, says, verdict, dim, open, sortable, chosen, onChoose, onOpen, onCopy, onRemove }: RowProps) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({
    id: item.id,
    disabled: !sortable,
  });
  return (
    <div
      ref={setNodeRef}
      className={`listrow${open ? " open" : ""}${dim ? " dim" : ""}`}
      data-row={item.id}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      {sortable && (
        <button
          type="button"
          className="grip"
          {...attributes}
          {...listeners}
          aria-label={t("Move {name}: press space, then the arrow keys", { name: item.name })}
        >
          <GripVertical size={14} />
        </button>
      )}
      {chosen !== undefined && (
        <Checkbox
          className="grip"
          size="small"
          checked={chosen}
          onChange={(_, on) => onChoose(on)}
          slotProps={{ input: { "aria-label": t("Choose {name}", { name: item.name }) } }}
        />
      )}
      <button type="button" className="name" aria-current={open} onClick={onOpen}>
        {item.name}
      </button>
      <span className="at-end">{verdict}</span>
      <div className="rule">{says}</div>
      <span className="acts">
        <Tooltip title={t("Copy {name}", { name: item.name })}>
          <IconButton size="small" aria-label={t("Copy {name}", { name: item.name })} onClick={onCopy}>
            <Copy size={14} />
          </IconButton>
        </Tooltip>
        <Tooltip title={t("Delete {name}", { name: item.name })}>
          <IconButton size="small" aria-label={t("Delete {name}", { name: item.name })} onClick={onRemove}>
            <Trash2 size={14} />
          </IconButton>
        </Tooltip>
      </span>
    </div>
  );
}
