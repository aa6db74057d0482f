import { useDroppable } from "@dnd-kit/core";
import type { CSSProperties, ReactNode } from "react";

interface Props {
  readonly day: string;
  readonly name: string;
  readonly className: string;
  readonly style?: CSSProperties;
  readonly children: ReactNode;
}

/** A day on which a milestone may be put down. */
export function Day({ day, name, className, style, children }: Props) {
  const { setNodeRef, isOver } = useDroppable({ id: day });
  return (
    <div
      ref={setNodeRef}
      role="group"
      aria-label={name}
      data-day={day}
      className={`${className} ${isOver ? "outline-2 -outline-offset-2 outline-accent" : ""}`}
      style={style}
    >
      {children}
    </div>
  );
}
