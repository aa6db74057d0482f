import type { BoxedRow } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useDraggable, useDroppable } from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import { memo, useCallback, useMemo, type KeyboardEvent } from "react";
import { Link } from "react-router";
import { countWords, dateWords } from "../shared/words/words.ts";
import type { PlaceInList } from "../shared/table/ListInSight.tsx";
import { useWord } from "../project/useWord.ts";

export interface LineHandlers {
  readonly onChoose: (id: string, chosen: boolean) => void;
  readonly onKey: (id: string, event: KeyboardEvent) => void;
}

interface Props extends LineHandlers {
  readonly row: BoxedRow;
  /** The timebox it stands in, or nothing where it waits. */
  readonly box: string | null;
  readonly chosen: boolean;
  readonly mayEdit: boolean;
  /** Its place in a list of which only a part is drawn, of how many, and what takes its height there. */
  readonly place: PlaceInList["data-index"];
  readonly of: number;
  readonly measure: PlaceInList["ref"];
}

/** How it stands to its box, in words. */
function Standing({ row: { state, finish, spillsDays, parked, blockedBy } }: { row: BoxedRow }) {
  const wordOf = useWord();
  if (parked) return <span className="muted">{wordOf("parked")}</span>;
  return (
    <>
      {blockedBy !== null && <span className="adverse">blocked </span>}
      {spillsDays > 0 && state !== "complete" ? (
        <span className="adverse">spills {countWords(spillsDays, "day", "days")}</span>
      ) : finish === null ? (
        <span className="muted">no dates</span>
      ) : (
        <span className={state === "complete" ? "muted" : ""}>
          {state === "complete" ? `${wordOf("complete")} ` : ""}
          {dateWords(finish).slice(0, -5)}
        </span>
      )}
    </>
  );
}

const LINE = "flex min-h-[28px] items-center gap-2 border-b rule text-sm";

/** What stands on a line, beside what takes it up. */
function Said({ row }: { row: BoxedRow }) {
  const wordOf = useWord();
  return (
    <>
      <span
        className="min-w-0 flex-1 truncate"
        title={`${row.path === "" ? "" : `${row.path} / `}${row.name}, ${wordOf(row.state)}`}
      >
        <Link
          className={`link-quiet ${row.state === "complete" ? "muted" : ""}`}
          to={`../plan?at=${encodeURIComponent(row.id)}`}
          relative="path"
          draggable={false}
        >
          {row.name}
        </Link>
        <span className="muted ml-2">{row.people.join(", ")}</span>
      </span>
      <span className="figure w-20 shrink-0 text-right" title="Remaining hours">
        {row.plannedMinutes + row.leftMinutes === 0 ? (
          <span className="muted">no hours</span>
        ) : (
          formatHours(row.leftMinutes)
        )}
      </span>
      <span className="w-32 shrink-0 text-right">
        <Standing row={row} />
      </span>
    </>
  );
}

/** One activity in a timebox or waiting: taken up by its grip, put elsewhere by Alt and arrow keys. */
export const BoxLine = memo(function BoxLine({ row, box, ...props }: Props) {
  const { chosen, mayEdit, onChoose, onKey, place, of, measure } = props;
  const data = useMemo(() => ({ box, id: row.id, name: row.name }), [box, row]);
  const drag = useDraggable({ id: row.id, data, disabled: !mayEdit, attributes: { tabIndex: -1 } });
  const drop = useDroppable({ id: `before ${row.id}`, data, disabled: !mayEdit });
  const isOver = drop.isOver && drop.active?.id !== row.id;
  const drops = drop.setNodeRef;
  const ref = useCallback(
    (element: HTMLLIElement | null) => {
      drops(element);
      measure?.(element);
    },
    [drops, measure],
  );
  return (
    <li
      ref={ref}
      data-index={place}
      {...(place === undefined ? {} : { "aria-setsize": of, "aria-posinset": place + 1 })}
      className={`${LINE} ${isOver ? "border-t-2 border-t-accent" : ""} ${drag.isDragging ? "opacity-40" : ""}`}
    >
      {mayEdit && (
        <>
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            aria-label={row.name}
            aria-describedby="boxes-keys"
            data-line={row.id}
            checked={chosen}
            onChange={({ target }) => onChoose(row.id, target.checked)}
            onKeyDown={(event) => onKey(row.id, event)}
          />
          <span
            ref={drag.setNodeRef}
            className="flex min-h-[24px] min-w-[24px] cursor-grab touch-none items-center justify-center"
            title="Drag to another place"
            aria-hidden="true"
            {...drag.listeners}
          >
            <GripVertical size={14} className="muted" />
          </span>
        </>
      )}
      <Said row={row} />
    </li>
  );
});
