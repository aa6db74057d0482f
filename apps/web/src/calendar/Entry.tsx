import { useDraggable } from "@dnd-kit/core";
import type { CalendarEntry } from "@chronometra/contract";
import { CALENDAR_KIND_WORDS } from "@chronometra/contract";
import { memo, useMemo } from "react";
import { Link } from "react-router";
import { dateWords } from "../shared/words/words.ts";
import { Glyph } from "./Glyph.tsx";

interface Props {
  readonly entry: CalendarEntry;
  /** Whether there is room for all that is known of it. */
  readonly inFull: boolean;
}

const titleOf = ({ kind, name, project, words, from }: CalendarEntry): string =>
  `${CALENDAR_KIND_WORDS[kind][0]} ${project === null ? "" : `${project.code} `}${name}, ${dateWords(from)}: ${words}`;

function Said({ entry, inFull }: Props) {
  const { kind, tone, done, project, name, words } = entry;
  return (
    <>
      <Glyph kind={kind} tone={tone} done={done} />
      <span className={`${inFull ? "" : "truncate"} ${tone === "adverse" ? "adverse" : ""} ${done ? "muted" : ""}`}>
        {project !== null && <span className="muted">{project.code} </span>}
        {name}
      </span>
      {inFull && <span className="muted ml-2 max-sm:hidden">{words}</span>}
    </>
  );
}

const LOOKS = "flex min-h-[24px] w-full min-w-0 items-center gap-1 text-left text-sm";

interface OpenerProps extends Props {
  readonly className?: string;
  readonly carrying?: ReturnType<typeof useDraggable>["listeners"];
  readonly attributes?: Partial<ReturnType<typeof useDraggable>["attributes"]>;
  readonly setNodeRef?: (node: HTMLElement | null) => void;
}

/** Drawn anew only where it is itself carried: taking one up tells all others that could be. */
const Opener = memo(function Opener({ entry, inFull, className = "", carrying, attributes, setNodeRef }: OpenerProps) {
  const title = titleOf(entry);
  return (
    <Link
      ref={setNodeRef}
      className={`${LOOKS} ${className}`}
      to={entry.link!}
      title={title}
      aria-label={title}
      draggable={false}
      {...attributes}
      {...carrying}
    >
      <Said entry={entry} inFull={inFull} />
    </Link>
  );
});

/** A milestone that can be carried to another day, by pointer, finger or keys; pressed, it opens. */
function Carried({ entry, inFull }: Props) {
  const data = useMemo(() => ({ entry }), [entry]);
  // It stays a link, which opens by Enter.
  const { attributes, listeners, setNodeRef, isDragging } = useDraggable({
    ...{ id: entry.id, data, attributes: { role: "link" } },
  });
  return (
    <Opener
      entry={entry}
      inFull={inFull}
      className={`touch-manipulation cursor-grab ${isDragging ? "opacity-40" : ""}`}
      carrying={listeners}
      attributes={attributes}
      setNodeRef={setNodeRef}
    />
  );
}

/** Something on a day: it opens where it is told in full. */
export const Entry = (props: Props) => (props.entry.mayMove ? <Carried {...props} /> : <Opener {...props} />);

/** What is carried, beside the pointer. */
export const Ghost = ({ entry }: { entry: CalendarEntry }) => (
  <span className={`${LOOKS} w-fit border rule bg-base-100 px-2`}>
    <Said entry={entry} inFull={false} />
  </span>
);
