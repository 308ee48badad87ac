"use client";
import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import {
  SortableContext,
  sortableKeyboardCoordinates,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import Tooltip from "@mui/material/Tooltip";
import { Copy, GripVertical, Trash2 } from "lucide-react";
import { usePathname, useSearchParams } from "next/navigation";
import { useState } from "react";
import { fold } from "@/core/text/fold";
import { addressOf } from "../desk/screens";
import { useGo } from "../desk/use-go";

/** One row of a list screen. */
export interface Row {
  id: string;
  name: string;
  /** Under the name: a sentence, a count. */
  says: React.ReactNode;
  /** At the right: the verdict for the lens at hand. */
  verdict?: React.ReactNode;
  dim?: boolean;
  /** Words beside the name by which it is found. */
  words?: string;
}

interface Props {
  title: string;
  /** What such a thing is for, in a sentence; shown where there are none. */
  teaches: string;
  rows: readonly Row[];
  /** The name of the button that adds one, such as "New audience". */
  adding: string;
  onAdd: () => string | undefined;
  onCopy?: (id: string) => string | undefined;
  onRemove: (id: string) => void;
  /** Given where order matters: then rows can be dragged, and moved by keyboard. */
  onMove?: (id: string, to: number) => void;
  /** What stands above the list, such as how order works. */
  note?: React.ReactNode;
  /** The editor of the row that is open. */
  children: (id: string) => React.ReactNode;
}

/** A list at the left, searched and ordered, and the one that is open at the right. The address says which. */
export function ListScreen(props: Props) {
  const { title, teaches, rows, adding, onAdd, onMove, note, children } = props;
  const go = useGo();
  const path = usePathname();
  const wanted = useSearchParams().get("open");
  const [text, setText] = useState("");
  // What was chosen here opens at once; the address follows, and wins again when it is changed from elsewhere.
  const [chosen, setChosen] = useState<{ id: string | undefined; before: string | null }>();
  const follows = chosen && (wanted === chosen.before || wanted === (chosen.id ?? null));
  const asked = follows ? (chosen.id ?? null) : wanted;
  const open = rows.find((row) => row.id === asked) ?? (asked === null ? rows[0] : undefined);
  const show = (id: string | undefined) => {
    setChosen({ id, before: wanted });
    go(id === undefined ? path : addressOf(path, id), { replace: true });
  };
  const found = rows.filter((row) => fold(`${row.name} ${row.words ?? ""}`).includes(fold(text.trim())));
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const dropped = ({ active, over }: DragEndEvent) => {
    const to = rows.findIndex((row) => row.id === over?.id);
    if (to >= 0 && active.id !== over?.id) onMove?.(String(active.id), to);
  };
  return (
    <main className="listscreen">
      <section className="list" aria-label={title}>
        <div className="listhead">
          <h1>{title}</h1>
          <Button variant="contained" onClick={() => show(onAdd())}>
            {adding}
          </Button>
        </div>
        {rows.length > 6 && (
          <div style={{ padding: "0 16px 8px" }}>
            <TextField
              placeholder={`Search ${rows.length} by name`}
              value={text}
              onChange={(event) => setText(event.target.value)}
              slotProps={{ htmlInput: { "aria-label": "Search by name" } }}
            />
          </div>
        )}
        {note && rows.length > 0 && <p className="quiet note">{note}</p>}
        {rows.length === 0 && <p className="teaches">{teaches}</p>}
        <div className="rows">
          <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={dropped}>
            <SortableContext items={found.map((row) => row.id)} strategy={verticalListSortingStrategy}>
              {found.map((row) => (
                <RowView
                  key={row.id}
                  {...props}
                  row={row}
                  open={row.id === open?.id}
                  show={show}
                  sortable={onMove !== undefined && found.length === rows.length}
                />
              ))}
            </SortableContext>
          </DndContext>
          {rows.length > 0 && found.length === 0 && <p className="quiet note">Nothing here has that name.</p>}
        </div>
      </section>
      <section className="opened" aria-label={open?.name ?? title}>
        {open ? (
          <div key={open.id}>{children(open.id)}</div>
        ) : (
          <p className="quiet" style={{ padding: 24 }}>
            {rows.length === 0 ? `“${adding}” makes the first one.` : "Choose one from the list."}
          </p>
        )}
      </section>
    </main>
  );
}

function RowView({
  row,
  open,
  show,
  sortable,
  onCopy,
  onRemove,
}: Props & { row: Row; open: boolean; show: (id: string | undefined) => void; sortable: boolean }) {
  const { attributes, listeners, setNodeRef, transform, transition } = useSortable({ id: row.id, disabled: !sortable });
  return (
    <div
      ref={setNodeRef}
      className={`listrow${open ? " open" : ""}${row.dim ? " dim" : ""}`}
      data-row={row.id}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      {sortable && (
        <button
          type="button"
          className="grip"
          {...attributes}
          {...listeners}
          aria-label={`Move ${row.name}: press space, then the arrow keys`}
        >
          <GripVertical size={14} />
        </button>
      )}
      <button type="button" className="name" aria-current={open} onClick={() => show(row.id)}>
        {row.name}
      </button>
      <span className="at-end">{row.verdict}</span>
      <div className="rule">{row.says}</div>
      <span className="acts">
        {onCopy && (
          <Tooltip title={`Copy ${row.name}`}>
            <IconButton size="small" aria-label={`Copy ${row.name}`} onClick={() => show(onCopy(row.id))}>
              <Copy size={14} />
            </IconButton>
          </Tooltip>
        )}
        <Tooltip title={`Delete ${row.name}`}>
          <IconButton size="small" aria-label={`Delete ${row.name}`} onClick={() => onRemove(row.id)}>
            <Trash2 size={14} />
          </IconButton>
        </Tooltip>
      </span>
    </div>
  );
}
