import type { Present } from "@chronometra/contract";
import { Info, Redo2, Search, Undo2 } from "lucide-react";
import { startTransition, useCallback, useEffect, useMemo, useRef, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { useProject } from "../project/useProject.ts";
import { DateField } from "../shared/DateField.tsx";
import { Failure } from "../shared/Failure.tsx";
import { useAddress } from "../shared/useAddress.ts";
import { dateWords, movedWords } from "../shared/words.ts";
import { xOf } from "./chart/scale.ts";
import { useTimeScale } from "./chart/useTimeScale.ts";
import { ChartTools } from "./ChartTools.tsx";
import { idsAfter } from "./grid/blocks.ts";
import { FindBar } from "./grid/FindBar.tsx";
import { AboutPanel, TABS, type AboutTab } from "./panel/AboutPanel.tsx";
import { PlanColumnChoice } from "./grid/PlanColumnChoice.tsx";
import { PlanFoot } from "./PlanFoot.tsx";
import { PlanSheet, type Active, type SheetHandle } from "./grid/PlanSheet.tsx";
import { RowTools } from "./grid/RowTools.tsx";
import { WaysTool } from "./grid/WaysTool.tsx";
import type { PlanSession } from "./engine/planSession.ts";
import type { SessionState } from "./engine/sessionState.ts";
import type { Sheet, SheetRow } from "./engine/sheet.ts";
import { Shelf } from "./Shelf.tsx";
import { TryOut } from "./TryOut.tsx";
import { todayHere } from "../shared/today.ts";
import { useChartLook } from "./useChartLook.ts";
import { usePane } from "./grid/usePane.ts";
import { usePlanColumns } from "./grid/usePlanColumns.ts";
import { usePlanNews } from "./engine/usePlanNews.ts";
import { usePlanSession } from "./engine/usePlanSession.ts";

const SCROLLBAR = 14;
const LEAST_ROOM = 320;

/** Rows not below a folded one. */
function unfolded(rows: readonly SheetRow[], folded: ReadonlySet<string>): readonly SheetRow[] {
  if (folded.size === 0) return rows;
  const away = new Set<string>();
  return rows.filter(({ id, parent }) => {
    if (parent === null || (!away.has(parent) && !folded.has(parent))) return true;
    away.add(id);
    return false;
  });
}

/** Rows with what is parked, without it, or only it and the branches it lies in. */
function withParked(rows: readonly SheetRow[], show: string): readonly SheetRow[] {
  if (show === "without") return rows.filter(({ parked }) => !parked);
  if (show !== "only") return rows;
  const byId = new Map(rows.map((row) => [row.id, row]));
  const kept = new Set<string>();
  for (const row of rows)
    if (row.parked)
      for (
        let at: SheetRow | undefined = row;
        at !== undefined && !kept.has(at.id);
        at = at.parent === null ? undefined : byId.get(at.parent)
      )
        kept.add(at.id);
  return rows.filter(({ id }) => kept.has(id));
}

/** Whether parked rows are shown, kept in the address. */
function useParkedRows(): { show: string; choose: (show: string) => void } {
  const [params, put] = useAddress();
  return { show: params.get("parked") ?? "", choose: (show) => put({ parked: show }) };
}

/** Who else stands where: names by activity. */
function othersAt(present: readonly Present[]): ReadonlyMap<string, string> {
  const at = new Map<string, string>();
  for (const { activity, name } of present)
    if (activity !== null) at.set(activity, at.has(activity) ? `${at.get(activity)!}, ${name}` : name);
  return at;
}

/** Keys that hold for the whole page. */
function usePageKeys(session: PlanSession, onFind: () => void, onAbout: () => void): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      const key = event.key.toLowerCase();
      if (event.altKey && key === "enter") onAbout();
      else if (!(event.ctrlKey || event.metaKey)) return;
      else if (key === "f") onFind();
      else if ((event.target as HTMLElement).matches("input, textarea, select")) return;
      else if (key === "z" && !event.shiftKey) void session.undo();
      else if (key === "y" || key === "z") void session.redo();
      else return;
      event.preventDefault();
    };
    addEventListener("keydown", onKey);
    return () => removeEventListener("keydown", onKey);
  });
}

/** The panel about the chosen activity, open or not, kept in the address. */
function useAbout(): { tab: AboutTab | null; show: (tab: AboutTab | null) => void } {
  const [params, put] = useAddress();
  const tab = TABS.find(({ id }) => id === params.get("about"))?.id ?? null;
  return { tab, show: (next) => put({ about: next }) };
}

interface WorkProps {
  readonly sheet: Sheet;
  readonly state: SessionState;
  readonly session: PlanSession;
  readonly mayEdit: boolean;
  /** Whether it is the live plan, and not a what-if beside it. */
  readonly live: boolean;
  /** The plan's or what-if's id, by which is kept where someone was on it. */
  readonly planKey: string;
  /** A row that was just made, to be typed into. */
  readonly fresh?: string | null;
}

/** A plan's tree as a table beside the time chart, to be worked on. */
export function PlanWork({ sheet, state, session, mayEdit, live, planKey, fresh = null }: WorkProps) {
  const look = useProject();
  const [params] = useSearchParams();
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const [chosen, setChosen] = useState<Active | null>(null);
  // What acts on the chosen rows must act on those that are chosen now; what is told of them may come a moment later.
  const current = useRef<Active>(null);
  const onActive = useCallback((next: Active): void => {
    current.current = next;
    startTransition(() => setChosen(next));
  }, []);
  const [finding, setFinding] = useState(false);
  const about = useAbout();
  const [byKey, setByKey] = useState(false);
  const active = chosen?.row ?? null;
  const columns = usePlanColumns(sheet.fields, params.get("cell"));
  const scroller = useRef<HTMLDivElement>(null);
  const table = useRef<SheetHandle>(null);
  const [viewWidth, setViewWidth] = useState(1280);
  const pane = usePane(columns.columns, viewWidth, scroller);
  const room = Math.max(LEAST_ROOM, viewWidth - pane.width - SCROLLBAR);
  const looks = useChartLook(sheet, session);
  const time = useTimeScale(sheet, scroller, pane.width, room, looks.look.ghosts);
  const parkedRows = useParkedRows();
  const anyParked = useMemo(() => sheet.rows.some(({ parked }) => parked), [sheet]);
  const rows = useMemo(
    () => unfolded(anyParked ? withParked(sheet.rows, parkedRows.show) : sheet.rows, folded),
    [sheet, folded, anyParked, parkedRows.show],
  );
  const undated = useMemo(
    () => sheet.rows.filter(({ kind, dates, parked }) => kind === "work" && dates === null && !parked),
    [sheet],
  );
  const reading = useMemo(
    () => ({ today: todayHere(), people: sheet.people, calendars: sheet.calendars, minorDigits: sheet.minorDigits }),
    [sheet],
  );
  const present = usePlanNews(look.id, session, active?.id ?? null, live);
  const others = useMemo(() => othersAt(present), [present]);

  useEffect(() => {
    const watching = new ResizeObserver(([entry]) => setViewWidth(entry!.contentRect.width));
    watching.observe(scroller.current!);
    return () => watching.disconnect();
  }, []);
  usePageKeys(
    session,
    () => setFinding(true),
    () => {
      setByKey(true);
      about.show(about.tab === null ? "work" : null);
    },
  );

  const fold = (id: string, open: boolean): void =>
    setFolded((former) => new Set(open ? [...former].filter((each) => each !== id) : [...former, id]));
  const jump = (instant: number): void =>
    scroller.current?.scrollTo({ left: Math.max(0, xOf(time.scale, instant) - 120), behavior: "instant" });
  const summaries = sheet.rows.filter(({ children }) => children > 0);
  /** Goes to an activity, unfolding what hides it. */
  const goTo = (id: string, column = "name"): void => {
    setFolded(new Set());
    const at = Math.max(
      0,
      columns.columns.findIndex((each) => each.id === column),
    );
    setTimeout(() => table.current?.go(id, at));
  };
  const closeAbout = (): void => {
    about.show(null);
    table.current?.focus();
  };
  return (
    <div className={`flex h-full min-h-88 flex-col ${about.tab === null ? "" : "max-lg:h-auto"}`}>
      <div className="paper-only text-sm">
        Here are only the rows that stood on the screen. The whole plan, {sheet.rows.length} rows
        {sheet.dataDate !== null && `, data date ${dateWords(sheet.dataDate)}`}, is printed from the plan’s own print
        page.
      </div>
      <div role="toolbar" aria-label="Plan" className="flex flex-wrap items-center gap-0.5 px-4 py-0.5">
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Undo"
          disabled={state.undoable === 0}
          onClick={() => void session.undo()}
          title="Undo (Ctrl+Z)"
        >
          <Undo2 size={14} aria-hidden="true" />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Redo"
          disabled={state.redoable === 0}
          onClick={() => void session.redo()}
          title="Redo (Ctrl+Y)"
        >
          <Redo2 size={14} aria-hidden="true" />
        </button>
        {mayEdit && chosen !== null && (
          <RowTools current={current} parked={active?.parked === true} session={session} />
        )}
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          onClick={() => setFolded(folded.size > 0 ? new Set() : new Set(summaries.map(({ id }) => id)))}
        >
          {folded.size > 0 ? "Unfold all" : "Fold all"}
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label="Find and replace"
          aria-pressed={finding}
          onClick={() => setFinding(!finding)}
          title="Find and replace (Ctrl+F)"
        >
          <Search size={14} aria-hidden="true" />
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm btn-square"
          aria-label="About"
          aria-pressed={about.tab !== null}
          onClick={() => {
            setByKey(false);
            about.show(about.tab === null ? "why" : null);
          }}
          title="All about the selected row (Alt+Enter)"
        >
          <Info size={14} aria-hidden="true" />
        </button>
        <PlanColumnChoice columns={columns} />
        {mayEdit && chosen !== null && <WaysTool current={current} sheet={sheet} session={session} row={active} />}
        {mayEdit && live && <TryOut project={look.id} />}
        {anyParked ? (
          <select
            className="select select-xs ml-1 w-28"
            aria-label="Parked rows"
            value={parkedRows.show}
            onChange={(event) => parkedRows.choose(event.target.value)}
          >
            <option value="">{sheet.rows.length} rows</option>
            <option value="without">without parked</option>
            <option value="only">only parked</option>
          </select>
        ) : (
          <span className="muted ml-1 text-sm">{sheet.rows.length} rows</span>
        )}
        {mayEdit && (
          <span className="ml-2 flex items-center gap-1 text-sm">
            Data date{" "}
            <DateField
              label="Data date"
              small
              value={sheet.dataDate ?? ""}
              onDate={(date) => date !== sheet.dataDate && void session.change([{ type: "setDataDate", date }])}
            />
          </span>
        )}
        <ChartTools
          sheet={sheet}
          row={active}
          time={time}
          looks={looks}
          onJump={jump}
          printAt={`/projects/${look.id}/plan/print${params.size > 0 ? `?${params.toString()}` : ""}`}
        />
      </div>
      {looks.look.colouring !== null && (
        <ul
          aria-label={`Colours of ${looks.look.colouring.field.name}`}
          className="flex flex-wrap gap-4 border-t rule px-4 py-0.5 text-sm"
        >
          <li className="muted">{looks.look.colouring.field.name}</li>
          {looks.look.colouring.legend.map(({ value, colour }) => (
            <li key={value} className="flex items-center gap-1.5">
              <span className="inline-block h-2.5 w-5" style={{ background: colour }} aria-hidden="true" />
              {value}
            </li>
          ))}
        </ul>
      )}
      {looks.test !== null && (
        <p role="status" className="border-t rule px-4 py-0.5 text-sm">
          Critical path test: with {looks.test.activity} {looks.test.addedDays} d longer, the finish lies{" "}
          {movedWords(looks.test.movedDays)}; what moves is drawn where it would lie.{" "}
          <Link className="underline" to={`/projects/${look.id}/trust?at=12`}>
            What that says
          </Link>
        </p>
      )}
      {finding && (
        <FindBar
          rows={rows}
          columns={columns.columns}
          reading={reading}
          current={current}
          mayEdit={mayEdit}
          onGo={({ id, column }) =>
            table.current?.go(
              id,
              columns.columns.findIndex((each) => each.id === column),
            )
          }
          onClose={() => {
            setFinding(false);
            table.current?.focus();
          }}
        />
      )}
      <svg width="0" height="0" className="absolute" aria-hidden="true">
        <defs>
          <linearGradient id="fading">
            <stop offset="0" stopColor="var(--band)" stopOpacity="0.9" />
            <stop offset="1" stopColor="var(--band)" stopOpacity="0.12" />
          </linearGradient>
        </defs>
      </svg>
      <div className="flex min-h-0 flex-1 border-t rule max-lg:flex-col">
        <div className={`min-h-0 min-w-0 flex-1 ${about.tab === null ? "" : "max-lg:h-56 max-lg:flex-none"}`}>
          <PlanSheet
            sheet={sheet}
            rows={rows}
            folded={folded}
            columns={columns}
            pane={pane}
            gone={state.gone}
            fresh={fresh}
            planKey={planKey}
            reading={reading}
            scale={time.scale}
            look={looks.look}
            session={session}
            mayEdit={mayEdit}
            currency={look.summary.currency}
            others={others}
            scroller={scroller}
            onFold={fold}
            onActive={onActive}
            room={`${about.tab === null} ${finding} ${undated.length > 0}`}
            at={params.get("at")}
            cell={params.get("cell")}
            handle={table}
          />
        </div>
        {about.tab !== null && (
          <AboutPanel
            tab={about.tab}
            onTab={about.show}
            row={active}
            sheet={sheet}
            session={session}
            mayEdit={mayEdit}
            onGo={goTo}
            onClose={closeAbout}
            takesKeyboard={byKey}
          />
        )}
      </div>
      {undated.length > 0 && <Shelf rows={undated} onGo={(id) => goTo(id, "length")} />}
      <PlanFoot
        state={state}
        session={session}
        mayEdit={mayEdit}
        minorDigits={look.summary.minorDigits}
        currency={look.summary.currency}
        present={present}
        sheet={sheet}
      />
    </div>
  );
}

/** A plan with nothing in it, and how to begin. */
function Nothing({
  session,
  mayEdit,
  onBegin,
}: {
  session: PlanSession;
  mayEdit: boolean;
  onBegin: (id: string) => void;
}) {
  const begin = (): void => {
    const id = idsAfter([])(0);
    onBegin(id);
    void session.arrange({ verb: "insert", id, name: "First activity", after: null, inside: false });
  };
  return (
    <div className="page">
      <p className="muted">This plan has no activities yet.</p>
      {mayEdit && (
        <p className="mt-2">
          <button type="button" className="btn btn-primary btn-sm" onClick={begin}>
            Type the first activity
          </button>{" "}
          <span className="muted">
            then Enter for the next; or paste rows from a spreadsheet, or{" "}
            <Link className="underline" to="/import">
              bring a file
            </Link>
            .
          </span>
        </p>
      )}
    </div>
  );
}

/** The plan: its tree as a table beside the time chart. */
export function PlanPage() {
  const look = useProject();
  const { id } = look;
  const opened = usePlanSession(id);
  const [fresh, setFresh] = useState<string | null>(null);
  if (opened?.state.sheet == null)
    return opened?.state.failure == null ? (
      <p className="page muted" role="status">
        Loading the plan …
      </p>
    ) : (
      <div className="page">
        <Failure error={opened.state.failure} onAgain={() => void opened.session.open()} />
      </div>
    );
  const { sheet } = opened.state;
  if (sheet.rows.length === 0) return <Nothing session={opened.session} mayEdit={look.mayEdit} onBegin={setFresh} />;
  return (
    <PlanWork
      sheet={sheet}
      state={opened.state}
      session={opened.session}
      mayEdit={look.mayEdit}
      live
      planKey={id}
      fresh={fresh}
    />
  );
}
