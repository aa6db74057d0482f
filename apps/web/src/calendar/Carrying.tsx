import type { CalendarEntry } from "@chronometra/contract";
import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  MouseSensor,
  pointerWithin,
  closestCenter,
  TouchSensor,
  useSensor,
  useSensors,
  type Announcements,
  type CollisionDetection,
  type KeyboardCoordinateGetter,
} from "@dnd-kit/core";
import { useState, type ReactNode } from "react";
import { useNavigate } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { dateWords } from "../shared/words/words.ts";
import { shifted } from "./days.ts";
import { Ghost } from "./Entry.tsx";

const HOLD_MILLISECONDS = 250;
const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -7, ArrowDown: 7 };
/** Day under day, one step is one day. */
const STEPS_OF_WEEK: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 };

/** Under the pointer; with the keyboard, whose pointer is nowhere, the day that is nearest. */
const under: CollisionDetection = (args) =>
  args.pointerCoordinates === null ? closestCenter(args) : pointerWithin(args);

const byKeys =
  (steps: Readonly<Record<string, number>>): KeyboardCoordinateGetter =>
  (event, { context: { over, active, droppableRects, collisionRect } }) => {
    const by = steps[event.code];
    const entry = active?.data.current?.["entry"] as CalendarEntry | undefined;
    if (by === undefined || entry === undefined || collisionRect === null) return undefined;
    event.preventDefault();
    const rect = droppableRects.get(shifted(String(over?.id ?? entry.from), by));
    if (rect === undefined) return undefined;
    return {
      x: rect.left + rect.width / 2 - collisionRect.width / 2,
      y: rect.top + rect.height / 2 - collisionRect.height / 2,
    };
  };

const nameOf = (data: { current?: Record<string, unknown> | undefined } | undefined): string =>
  (data?.current?.["entry"] as CalendarEntry | undefined)?.name ?? "";

const announcements: Announcements = {
  onDragStart: ({ active }) => `${nameOf(active.data)} is carried; arrow keys go to another day.`,
  onDragOver: ({ over }) => (over === null ? undefined : dateWords(String(over.id))),
  onDragEnd: ({ active, over }) =>
    `${nameOf(active.data)} is put down${over === null ? "" : ` on ${dateWords(String(over.id))}`}.`,
  onDragCancel: ({ active }) => `${nameOf(active.data)} stays.`,
};
const INSTRUCTIONS =
  "Enter opens it. Space takes it up, arrow keys carry it to another day, Space puts it down, Escape leaves it.";

/** Lets milestones be carried to another day, where what goes along is asked before anything moves. */
export function Carrying({ dayUnderDay, children }: { dayUnderDay: boolean; children: ReactNode }) {
  const navigate = useNavigate();
  const [carried, setCarried] = useState<CalendarEntry | null>(null);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: HOLD_MILLISECONDS, tolerance: 8 } }),
    useSensor(KeyboardSensor, {
      keyboardCodes: { start: ["Space"], cancel: ["Escape"], end: ["Space", "Enter"] },
      coordinateGetter: byKeys(dayUnderDay ? STEPS_OF_WEEK : STEPS),
    }),
  );
  const putDown = (entry: CalendarEntry, day: string): void => {
    if (day === entry.from) return;
    if (day > entry.from)
      return void navigate(`/projects/${entry.project!.id}/slip/${encodeURIComponent(entry.activity!)}?to=${day}`);
    toast(`${entry.name} slips later only. To bring it forward, change what leads to it in the plan.`, {
      action: { label: "Open the plan", onClick: () => void navigate(entry.link!) },
    });
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={under}
      accessibility={{ announcements, screenReaderInstructions: { draggable: INSTRUCTIONS } }}
      onDragStart={({ active }) => setCarried(active.data.current?.["entry"] as CalendarEntry)}
      onDragCancel={() => setCarried(null)}
      onDragEnd={({ active, over }) => {
        setCarried(null);
        if (over !== null) putDown(active.data.current?.["entry"] as CalendarEntry, String(over.id));
      }}
    >
      {children}
      <DragOverlay dropAnimation={null}>{carried === null ? null : <Ghost entry={carried} />}</DragOverlay>
    </DndContext>
  );
}
