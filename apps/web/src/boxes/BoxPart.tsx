import { useDroppable } from "@dnd-kit/core";
import type { BoxedRow } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMemo, useState, type ReactNode } from "react";
import { Link } from "react-router";
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
}

/** So many lines are drawn before one asks for more. */
const DRAWN = 100;

/** The lines of a timebox, or of what waits; something can be put at their end. */
export function Lines({ box, rows, chosen, mayEdit, empty, onChoose, onKey }: LinesProps) {
  const [drawn, setDrawn] = useState(DRAWN);
  const data = useMemo(() => ({ box }), [box]);
  const { setNodeRef, isOver } = useDroppable({ id: `end of ${box ?? "waiting"}`, data, disabled: !mayEdit });
  return (
    <ul ref={setNodeRef} className={`min-h-[32px] ${isOver ? "outline outline-2 outline-accent" : ""}`}>
      {rows.length === 0 && <li className="muted py-1 text-sm">{empty}</li>}
      {rows.slice(0, drawn).map((row) => (
        <BoxLine key={row.id} {...{ row, box, mayEdit, onChoose, onKey }} chosen={chosen.has(row.id)} />
      ))}
      {rows.length > drawn && (
        <li>
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => setDrawn(drawn + DRAWN)}>
            {countWords(rows.length - drawn, "more waits", "more wait")}; show the next
          </button>
        </li>
      )}
    </ul>
  );
}

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
export function BoxPart({ shown, today, widest, children, ...rest }: Props) {
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
        empty={rest.mayEdit ? "Nothing in it yet. Drag something here, or select it and put it in." : "Nothing in it."}
      />
    </section>
  );
}
