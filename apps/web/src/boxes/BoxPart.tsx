import { useDroppable } from "@dnd-kit/core";
import type { BoxedRow } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { memo, useMemo, type ReactNode } from "react";
import { Link } from "react-router";
import { ListInSight } from "../shared/table/ListInSight.tsx";
import { countWords, shortDateWords } from "../shared/words/words.ts";
import { BoxLine, type LineHandlers } from "./BoxLine.tsx";
import { Chamber } from "./Chamber.tsx";
import type { ShownBox } from "./standing.ts";

interface LinesProps extends LineHandlers {
  readonly box: string | null;
  readonly rows: readonly BoxedRow[];
  readonly chosen: ReadonlySet<string>;
  readonly mayEdit: boolean;
  readonly empty: string;
  /** The line that is carried, or goes elsewhere by keys. */
  readonly keeps: string | null;
}

const LINE_PIXELS = 29;
const idOf = ({ id }: BoxedRow): string => id;

/** A line that is kept, where it is one of these: others are not drawn anew for it. */
export const keptIn = (rows: readonly BoxedRow[], keeps: string | null): string | null =>
  rows.some(({ id }) => id === keeps) ? keeps : null;

const isSame = (was: LinesProps, is: LinesProps): boolean =>
  (Object.keys(is) as (keyof LinesProps)[]).every((name) => name === "rows" || was[name] === is[name]) &&
  was.rows.length === is.rows.length &&
  was.rows.every((row, i) => row === is.rows[i]);

/** The lines of a timebox, or of what waits; something can be put at their end. */
export const Lines = memo(function Lines({ box, rows, chosen, mayEdit, empty, keeps, onChoose, onKey }: LinesProps) {
  const data = useMemo(() => ({ box }), [box]);
  const { setNodeRef, isOver } = useDroppable({ id: `end of ${box ?? "waiting"}`, data, disabled: !mayEdit });
  return (
    <ul ref={setNodeRef} className={`min-h-[32px] ${isOver ? "outline outline-2 outline-accent" : ""}`}>
      {rows.length === 0 && <li className="muted py-1 text-sm">{empty}</li>}
      <ListInSight rows={rows} keyOf={idOf} height={LINE_PIXELS} keeps={keeps}>
        {(row, { ref, "data-index": place }) => (
          <BoxLine
            {...{ row, box, mayEdit, onChoose, onKey, place }}
            of={rows.length}
            measure={ref}
            chosen={chosen.has(row.id)}
          />
        )}
      </ListInSight>
    </ul>
  );
}, isSame);

/** What a timebox holds, in words. */
function sumsOf({ counted, rows }: ShownBox, today: string): string[] {
  if (rows.length === 0) return [];
  if (counted === null) return [countWords(rows.length, "activity", "activities")];
  const { count, done, spills, leftMinutes, capacityLeftMinutes, daysLeft, first, last } = counted;
  const running = first <= today && last >= today;
  return [
    `${countWords(count, "activity", "activities")}${done > 0 ? `, ${done} finished` : ""}`,
    ...(leftMinutes > 0 || running ? [`${formatHours(leftMinutes)} remaining`] : []),
    ...(last >= today ? [`${formatHours(capacityLeftMinutes)} of people ${running ? "still to come" : "in it"}`] : []),
    ...(running ? [countWords(daysLeft, "day of work", "days of work")] : []),
    ...(spills > 0 ? [`${spills} ${spills === 1 ? "spills" : "spill"}`] : []),
  ];
}

interface Props extends Omit<LinesProps, "box" | "rows" | "empty"> {
  readonly shown: ShownBox;
  readonly today: string;
  readonly widest: number;
  readonly children: ReactNode;
}

/** A timebox: its days, its hours against those of its people, and what stands in it. */
export function BoxPart({ shown, today, widest, keeps, children, ...rest }: Props) {
  const { box, counted, rows } = shown;
  const when = box.last < today ? "over" : box.first <= today ? "now" : null;
  return (
    <section aria-label={box.name} className="pb-4">
      <div className="flex flex-wrap items-baseline gap-x-3 border-b-2 border-current">
        <h2 className="text-base">
          <Link className="link-quiet" to={encodeURIComponent(box.id)}>
            {box.name}
          </Link>
        </h2>
        <span className="muted text-sm">
          {shortDateWords(box.first)} to {shortDateWords(box.last)}
          {counted?.branch == null ? "" : `, ${counted.branch.name}`}
        </span>
        {when !== null && <span className={`text-sm ${when === "now" ? "font-semibold" : "muted"}`}>{when}</span>}
        <span className="ml-auto flex items-center gap-1 print:hidden">{children}</span>
      </div>
      {counted !== null && counted.capacityMinutes + counted.bookedMinutes + counted.leftMinutes > 0 && (
        <Chamber {...counted} widest={widest} />
      )}
      <p className="muted text-sm">{sumsOf(shown, today).join(" · ")}</p>
      <Lines
        {...rest}
        box={box.id}
        rows={rows}
        keeps={keptIn(rows, keeps)}
        empty={rest.mayEdit ? "Nothing in it yet. Drag something here, or select it and put it in." : "Nothing in it."}
      />
    </section>
  );
}
