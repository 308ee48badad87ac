"use client";
import { t } from "@/core/messages/t";
import { closestCenter, DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from "@dnd-kit/sortable";
import type { ReactNode } from "react";

interface Props {
  /** What can be put in another order, as it stands, and its names for those who hear them. */
  items: readonly { id: string; name: string }[];
  /** One was dropped where another stands: at this place among `items`. */
  onMove: (id: string, to: number) => void;
  children: ReactNode;
}

/** Rows that are put in another order by mouse or keyboard; what happens is said with their names. */
export function SortableRows({ items, onMove, children }: Props) {
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const spoken = (id: string | number | undefined) => items.find((item) => item.id === id)?.name ?? t("the list");
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        const to = items.findIndex((item) => item.id === over?.id);
        if (to >= 0 && active.id !== over?.id) onMove(String(active.id), to);
      }}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => t("Picked up {active}.", { active: spoken(active.id) }),
          onDragOver: ({ active, over }) =>
            t("{active} is over {over}.", { active: spoken(active.id), over: spoken(over?.id) }),
          onDragEnd: ({ active, over }) =>
            t("{active} is put where {over} was.", { active: spoken(active.id), over: spoken(over?.id) }),
          onDragCancel: ({ active }) => t("{active} is back where it was.", { active: spoken(active.id) }),
        },
      }}
    >
      <SortableContext items={items.map((item) => item.id)} strategy={verticalListSortingStrategy}>
        {children}
      </SortableContext>
    </DndContext>
  );
}
