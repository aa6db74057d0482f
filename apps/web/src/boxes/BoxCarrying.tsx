import {
  closestCenter,
  DndContext,
  DragOverlay,
  MouseSensor,
  pointerWithin,
  TouchSensor,
  useSensor,
  useSensors,
  type CollisionDetection,
} from "@dnd-kit/core";
import { useState, type ReactNode } from "react";

export interface PutDown {
  readonly id: string;
  readonly box: string | null;
  /** Before which it comes; at the end where it names nothing. */
  readonly before: string | null;
}

interface Data {
  readonly box?: string | null;
  readonly id?: string;
  readonly name?: string;
}

const HOLD_MILLISECONDS = 200;

/** A line under the pointer comes before the box that it stands in. */
const under: CollisionDetection = (args) => {
  const found = args.pointerCoordinates === null ? closestCenter(args) : pointerWithin(args);
  const lines = found.filter(({ id }) => String(id).startsWith("before "));
  return lines.length > 0 ? lines : found;
};

interface Props {
  readonly onPut: (put: PutDown) => void;
  /** What is carried from now on, by its id; nothing once it is put down. */
  readonly onCarry: (id: string | null) => void;
  readonly children: ReactNode;
}

/** Lets lines be carried from one place to another, by pointer or finger; keys are those of the lines. */
export function BoxCarrying({ onPut, onCarry, children }: Props) {
  const [name, setName] = useState<string | null>(null);
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 5 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: HOLD_MILLISECONDS, tolerance: 8 } }),
  );
  const putDown = (): void => {
    setName(null);
    onCarry(null);
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={under}
      onDragStart={({ active }) => {
        setName((active.data.current as Data).name ?? null);
        onCarry(String(active.id));
      }}
      onDragCancel={putDown}
      onDragEnd={({ active, over }) => {
        putDown();
        if (over === null) return;
        const { box = null, id = null } = over.data.current as Data;
        if (id !== active.id) onPut({ id: String(active.id), box, before: id });
      }}
    >
      {children}
      <DragOverlay dropAnimation={null}>
        {name === null ? null : (
          <span className="block w-fit max-w-80 truncate border rule bg-base-100 px-2 py-0.5 text-sm">{name}</span>
        )}
      </DragOverlay>
    </DndContext>
  );
}
