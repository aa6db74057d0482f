import { closeOf, parseDate } from "@chronometra/core";
import { Redo2, Undo2, ZoomIn, ZoomOut } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useProject } from "../portfolio/ProjectFrame.tsx";
import { ColumnChoice } from "../shared/ColumnChoice.tsx";
import { DateField } from "../shared/DateField.tsx";
import { Failure } from "../shared/Failure.tsx";
import { keepHidden, keptHidden } from "../shared/keptColumns.ts";
import { extentOf } from "./chart/laneShapes.ts";
import { MAX_PIXELS_PER_DAY, MIN_PIXELS_PER_DAY, xOf, type Scale } from "./chart/scale.ts";
import { PlanFoot } from "./PlanFoot.tsx";
import { PlanSheet, type Active } from "./PlanSheet.tsx";
import { RowTools } from "./RowTools.tsx";
import type { PlanSession, SessionState } from "./planSession.ts";
import type { Sheet, SheetRow } from "./sheet.ts";
import { SHEET_COLUMNS } from "./sheetColumns.ts";
import { WhyPanel } from "./WhyPanel.tsx";
import { usePlanSession } from "./usePlanSession.ts";

const NAME = "Plan";
const DAY = 1440;
const MARGIN_DAYS = 6;
const LABEL_PIXELS = 90;
const ZOOM = 1.6;

function useColumns() {
  const [hidden, setHidden] = useState(() => keptHidden(NAME) ?? SHEET_COLUMNS.filter((column) => column.hidden === true || column.id === "began" || column.id === "ended").map(({ id }) => id));
  const choose = (id: string, shown: boolean): void => {
    const next = shown ? hidden.filter((other) => other !== id) : [...hidden, id];
    setHidden(next);
    keepHidden(NAME, next);
  };
  const columns = useMemo(() => SHEET_COLUMNS.filter(({ id }) => !hidden.includes(id)), [hidden]);
  return { hidden, choose, columns };
}

/** Rows not below a folded one. */
function unfolded(rows: readonly SheetRow[], folded: ReadonlySet<string>): SheetRow[] {
  const away = new Uint8Array(rows.length);
  rows.forEach(({ parent }, i) => {
    if (parent >= 0 && (away[parent] === 1 || folded.has(rows[parent]!.id))) away[i] = 1;
  });
  return rows.filter((_row, i) => away[i] === 0);
}

/** The chart's scale: fitted to the room there is until someone zooms. */
function useScale(sheet: Sheet, room: number): { scale: Scale; zoom: (factor: number) => void; fit: () => void } {
  const [pixelsPerDay, setPixelsPerDay] = useState<number | null>(null);
  const extent = useMemo(() => extentOf(sheet.rows, sheet.dataDate), [sheet]);
  const from = extent.from - MARGIN_DAYS * DAY;
  const days = (extent.to - from) / DAY + MARGIN_DAYS;
  const fitted = Math.min(MAX_PIXELS_PER_DAY, Math.max(MIN_PIXELS_PER_DAY, (room - LABEL_PIXELS) / days));
  const used = pixelsPerDay ?? fitted;
  const scale = useMemo(() => ({ from, to: Math.max(extent.to + (LABEL_PIXELS / used) * DAY, from + (room / used) * DAY), pixelsPerDay: used }), [from, extent.to, used, room]);
  return { scale, zoom: (factor) => setPixelsPerDay(Math.min(MAX_PIXELS_PER_DAY, Math.max(MIN_PIXELS_PER_DAY, used * factor))), fit: () => setPixelsPerDay(null) };
}

interface WorkProps {
  readonly sheet: Sheet;
  readonly state: SessionState;
  readonly session: PlanSession;
}

function Work({ sheet, state, session }: WorkProps) {
  const look = useProject();
  const [params] = useSearchParams();
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<Active | null>(null);
  const [why, setWhy] = useState(false);
  const active = chosen?.row ?? null;
  const { hidden, choose, columns } = useColumns();
  const scroller = useRef<HTMLDivElement>(null);
  const [viewWidth, setViewWidth] = useState(1280);
  const pane = columns.reduce((sum, { width }) => sum + width, 0);
  const { scale, zoom, fit } = useScale(sheet, Math.max(320, viewWidth - pane - 14));
  const rows = useMemo(() => unfolded(sheet.rows, folded), [sheet, folded]);

  useEffect(() => {
    const watching = new ResizeObserver(([entry]) => setViewWidth(entry!.contentRect.width));
    watching.observe(scroller.current!);
    return () => watching.disconnect();
  }, []);
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).matches("input, textarea")) return;
      const key = event.key.toLowerCase();
      if (key === "z" && !event.shiftKey) session.undo();
      else if (key === "y" || key === "z") session.redo();
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  }, [session]);

  const fold = (id: string, open: boolean): void => setFolded((former) => new Set(open ? [...former].filter((each) => each !== id) : [...former, id]));
  const jump = (instant: number): void => scroller.current?.scrollTo({ left: Math.max(0, xOf(scale, instant) - 120), behavior: "instant" });
  const summaries = sheet.rows.filter(({ children }) => children > 0);
  return (
    <div className="flex h-full flex-col">
      <div role="toolbar" aria-label="Plan" className="flex flex-wrap items-center gap-1 px-4 py-0.5">
        <button type="button" className="btn btn-ghost btn-sm" disabled={state.undoable === 0} onClick={session.undo} title="Undo (Ctrl+Z)"><Undo2 size={14} aria-hidden="true" /> Undo</button>
        <button type="button" className="btn btn-ghost btn-sm" disabled={state.redoable === 0} onClick={session.redo} title="Redo (Ctrl+Y)"><Redo2 size={14} aria-hidden="true" /> Redo</button>
        {look.mayEdit && chosen !== null && <RowTools active={chosen} />}
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => setFolded(folded.size > 0 ? new Set() : new Set(summaries.map(({ id }) => id)))}>{folded.size > 0 ? "Unfold all" : "Fold all"}</button>
        <button type="button" className="btn btn-ghost btn-sm" aria-pressed={why} onClick={() => setWhy(!why)} title="Why the chosen row lies where it does">Why</button>
        <ColumnChoice columns={SHEET_COLUMNS.filter(({ id }) => id !== "name")} hidden={hidden} onChoose={choose} />
        <span className="muted ml-2 text-sm">{sheet.rows.length} rows{sheet.unscheduled > 0 && <span className="undecided">, {sheet.unscheduled} without dates</span>}</span>
        {look.mayEdit && (
          <span className="ml-4 flex items-center gap-1 text-sm">
            Data date <DateField label="Data date" small value={sheet.dataDate ?? ""} onDate={(date) => date !== sheet.dataDate && void session.change([{ type: "setDataDate", date }])} />
          </span>
        )}
        <div className="ml-auto flex items-center gap-1">
          {sheet.dataDate !== null && <button type="button" className="btn btn-ghost btn-sm" onClick={() => jump(closeOf(parseDate(sheet.dataDate!)!))}>To data date</button>}
          <button type="button" className="btn btn-ghost btn-sm" disabled={active?.dates == null} onClick={() => jump(active!.dates!.start)}>To its start</button>
          <button type="button" className="btn btn-ghost btn-sm" disabled={active?.dates == null} onClick={() => jump(active!.dates!.finish)}>To its finish</button>
          <button type="button" className="btn btn-ghost btn-sm" aria-label="Show less time, larger" onClick={() => zoom(ZOOM)}><ZoomIn size={14} aria-hidden="true" /></button>
          <button type="button" className="btn btn-ghost btn-sm" aria-label="Show more time, smaller" onClick={() => zoom(1 / ZOOM)}><ZoomOut size={14} aria-hidden="true" /></button>
          <button type="button" className="btn btn-ghost btn-sm" onClick={fit}>Fit</button>
        </div>
      </div>
      <svg width="0" height="0" className="absolute" aria-hidden="true"><defs><linearGradient id="fading"><stop offset="0" stopColor="var(--band)" stopOpacity="0.9" /><stop offset="1" stopColor="var(--band)" stopOpacity="0.12" /></linearGradient></defs></svg>
      <div className="min-h-0 flex-1 border-t rule">
        <PlanSheet sheet={sheet} rows={rows} folded={folded} columns={columns} scale={scale} session={session} mayEdit={look.mayEdit} scroller={scroller} onFold={fold} onActive={setChosen} room={why ? "less" : "all"} at={params.get("at")} />
      </div>
      {why && <WhyPanel row={active} sheet={sheet} session={session} onClose={() => setWhy(false)} />}
      <PlanFoot state={state} mayEdit={look.mayEdit} minorDigits={look.summary.minorDigits} currency={look.summary.currency} />
    </div>
  );
}

/** A plan with nothing in it, and how to begin. */
function Nothing({ session, mayEdit }: { session: PlanSession; mayEdit: boolean }) {
  const begin = (): void => void session.arrange({ verb: "insert", id: "n1", name: "First activity", after: null, inside: false });
  return (
    <div className="page">
      <p className="muted">This plan has no activities yet.</p>
      {mayEdit && <p className="mt-2"><button type="button" className="btn btn-primary btn-sm" onClick={begin}>Type the first activity</button> <span className="muted">then Enter for the next; or paste rows from a spreadsheet, or <Link className="underline" to="/import">bring a file</Link>.</span></p>}
    </div>
  );
}

/** The plan: its tree as a table beside the time chart. */
export function PlanPage() {
  const look = useProject();
  const { id } = look;
  const opened = usePlanSession(id);
  if (opened?.state.sheet == null) return opened?.state.failure == null ? <p className="page muted" role="status">Fetching the plan …</p> : <div className="page"><Failure error={opened.state.failure} onAgain={() => void opened.session.open()} /></div>;
  const { sheet } = opened.state;
  if (sheet.rows.length === 0) return <Nothing session={opened.session} mayEdit={look.mayEdit} />;
  return <Work sheet={sheet} state={opened.state} session={opened.session} />;
}
