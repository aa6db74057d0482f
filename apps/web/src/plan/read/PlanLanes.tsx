import { closeOf, parseDate } from "@chronometra/core";
import { ChevronDown, ChevronRight } from "lucide-react";
import { memo, useLayoutEffect, useMemo, useRef, useState } from "react";
import { ChartHead, HEAD_HEIGHT } from "../chart/ChartHead.tsx";
import { Lane } from "../chart/Lane.tsx";
import { ROW_HEIGHT, widthOf, xOf, type Scale } from "../chart/scale.ts";
import { shortDateWords } from "../../shared/words/words.ts";
import { laneOf, scaleOf, type PlanRow, type ReadPlan } from "./planLanes.ts";

const NAMES_WIDTH = 380;
interface RowProps {
  readonly row: PlanRow;
  readonly scale: Scale;
  readonly folded: boolean;
  readonly chosen: boolean;
  readonly onFold: (id: string) => void;
  readonly onChoose: (id: string) => void;
}

/** A row: its name, which stays in sight and opens all about it, its finish, and its lane. */
const Row = memo(function Row({ row, scale, folded, chosen, onFold, onChoose }: RowProps) {
  const { activity, depth, isBranch } = row;
  const { id, name, own, kind, finish } = activity;
  const shapes = useMemo(() => laneOf(activity, scale), [activity, scale]);
  return (
    <div
      role="row"
      className={`flex border-b rule ${chosen ? "bg-base-200" : ""}`}
      style={{ height: ROW_HEIGHT + 3, contentVisibility: "auto", containIntrinsicSize: `auto ${ROW_HEIGHT + 3}px` }}
    >
      <div
        role="rowheader"
        className={`sticky left-0 z-10 flex shrink-0 items-center gap-1 border-r rule pr-2 text-[13px] ${chosen ? "bg-base-200" : "bg-base-100"}`}
        style={{ width: NAMES_WIDTH, paddingLeft: `${0.25 + depth * 0.9}rem` }}
      >
        {isBranch ? (
          <button
            type="button"
            className="min-h-[24px] min-w-[24px] cursor-pointer"
            aria-expanded={!folded}
            aria-label={`${folded ? "Unfold" : "Fold"} ${name}`}
            onClick={() => onFold(id)}
          >
            {folded ? <ChevronRight size={13} aria-hidden="true" /> : <ChevronDown size={13} aria-hidden="true" />}
          </button>
        ) : (
          <span className="w-6 shrink-0 text-center text-accent" aria-hidden="true">
            {own ? "●" : ""}
          </span>
        )}
        <button
          type="button"
          className={`min-h-[24px] min-w-0 grow cursor-pointer truncate text-left ${kind === "summary" || own ? "font-semibold" : ""}`}
          title={name}
          aria-pressed={chosen}
          onClick={() => onChoose(id)}
        >
          {name}
          {own && <span className="sr-only">, yours</span>}
        </button>
        <span className="muted shrink-0 tabular-nums">{finish === null ? "–" : shortDateWords(finish)}</span>
      </div>
      <div role="cell">
        <svg width={widthOf(scale)} height={ROW_HEIGHT} className="block" fontSize="11" aria-hidden="true">
          <Lane shapes={shapes} summary={kind === "summary"} height={ROW_HEIGHT} />
        </svg>
      </div>
    </div>
  );
});

/** How wide something is, as it changes. */
function useWidth(element: { readonly current: HTMLElement | null }): number {
  const [width, setWidth] = useState(1200);
  useLayoutEffect(() => {
    const measured = element.current;
    if (measured === null) return;
    const measure = (): void => setWidth(measured.clientWidth);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(measured);
    return () => observer.disconnect();
  }, [element]);
  return width;
}

interface Props extends Pick<RowProps, "onFold" | "onChoose"> {
  readonly plan: ReadPlan & { readonly name: string };
  readonly rows: readonly PlanRow[];
  readonly folded: ReadonlySet<string>;
  readonly chosen: string | null;
}

/** A plan in time that is read, not changed: rows that fold, and what is chosen of them. */
export function PlanLanes({ plan, rows, folded, chosen, onFold, onChoose }: Props) {
  const pane = useRef<HTMLDivElement>(null);
  const width = useWidth(pane);
  const scale = useMemo(() => scaleOf(plan, width - NAMES_WIDTH), [plan, width]);
  if (plan.activities.length === 0) return <p className="muted p-3">The plan has nothing in it yet.</p>;
  if (scale === null) return <p className="muted p-3">Nothing in the plan has dates yet.</p>;
  const now = plan.dataDate === null ? null : xOf(scale, closeOf(parseDate(plan.dataDate)!));
  return (
    <div
      ref={pane}
      role="table"
      aria-label={`Plan of ${plan.name}`}
      tabIndex={0}
      className="relative min-h-0 min-w-0 flex-1 overflow-auto border-t rule"
    >
      <div style={{ width: NAMES_WIDTH + widthOf(scale) }} className="relative">
        <div className="sticky top-0 z-20 flex border-b rule bg-base-100" style={{ height: HEAD_HEIGHT }}>
          <div
            className="muted sticky left-0 z-10 flex shrink-0 items-end justify-between border-r rule bg-base-100 px-2 text-xs"
            style={{ width: NAMES_WIDTH }}
          >
            <span>{plan.activities.some(({ own }) => own) ? "● yours" : "Activity"}</span>
            <span>Finish</span>
          </div>
          <div className="relative" style={{ width: widthOf(scale) }}>
            <ChartHead scale={scale} dataDate={plan.dataDate} beside={NAMES_WIDTH} />
          </div>
        </div>
        {now !== null && (
          <div
            aria-hidden="true"
            className="pointer-events-none absolute bottom-0 border-l-2 border-accent"
            style={{ left: NAMES_WIDTH + now, top: HEAD_HEIGHT }}
          />
        )}
        <div role="rowgroup">
          {rows.map((row) => (
            <Row
              key={row.activity.id}
              row={row}
              scale={scale}
              folded={folded.has(row.activity.id)}
              chosen={row.activity.id === chosen}
              onFold={onFold}
              onChoose={onChoose}
            />
          ))}
        </div>
        {rows.length === 0 && <p className="muted p-3">Nothing of the plan is like that.</p>}
      </div>
    </div>
  );
}
