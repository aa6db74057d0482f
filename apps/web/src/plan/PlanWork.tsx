import type { Present } from "@chronometra/contract";
import { startTransition, useCallback, useEffect, useMemo, useRef, useState, type RefObject } from "react";
import { useSearchParams } from "react-router";
import { useProject } from "../project/useProject.ts";
import { useWord } from "../project/useWord.ts";
import { todayHere } from "../shared/words/today.ts";
import { dateWords } from "../shared/words/words.ts";
import { xOf } from "./chart/scale.ts";
import { useTimeScale } from "./chart/useTimeScale.ts";
import type { PlanSession } from "./engine/session/planSession.ts";
import type { SessionState } from "./engine/session/sessionState.ts";
import type { Sheet } from "./engine/sheet.ts";
import { usePlanNews } from "./engine/news/usePlanNews.ts";
import { FindBar } from "./grid/tools/FindBar.tsx";
import { PlanSheet, type Active, type SheetHandle } from "./grid/PlanSheet.tsx";
import { usePane } from "./grid/panes/usePane.ts";
import { usePlanColumns } from "./grid/columns/usePlanColumns.ts";
import { LookNotes } from "./look/LookNotes.tsx";
import { AboutPanel } from "./panel/AboutPanel.tsx";
import { PlanFoot } from "./PlanFoot.tsx";
import { PlanToolbar } from "./PlanToolbar.tsx";
import { Shelf } from "./Shelf.tsx";
import { useShownRows } from "./shownRows.ts";
import { useAbout } from "./useAbout.ts";
import { useChartLook } from "./look/useChartLook.ts";
import { usePageKeys } from "./usePageKeys.ts";

const SCROLLBAR = 14;
const LEAST_ROOM = 320;

/** Who else stands where: names by activity. */
function othersAt(present: readonly Present[]): ReadonlyMap<string, string> {
  const at = new Map<string, string>();
  for (const { activity, name } of present)
    if (activity !== null) at.set(activity, at.has(activity) ? `${at.get(activity)!}, ${name}` : name);
  return at;
}

interface Props {
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

/**
 * The row and cell that are chosen: what acts on them takes those of now, what is told of them may come a moment later.
 */
function useChosen() {
  const [chosen, setChosen] = useState<Active | null>(null);
  const current = useRef<Active>(null);
  const onActive = useCallback((next: Active): void => {
    current.current = next;
    startTransition(() => setChosen(next));
  }, []);
  return { chosen, current, onActive };
}

/** How wide an element is, as it changes. */
function useWidth(element: RefObject<HTMLElement | null>, first: number): number {
  const [width, setWidth] = useState(first);
  useEffect(() => {
    const watching = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    watching.observe(element.current!);
    return () => watching.disconnect();
  }, [element]);
  return width;
}

/** What all cells of a sheet are read with. */
const useReading = (sheet: Sheet) =>
  useMemo(
    () => ({ today: todayHere(), people: sheet.people, calendars: sheet.calendars, minorDigits: sheet.minorDigits }),
    [sheet],
  );

const PaperNote = ({ sheet }: { sheet: Sheet }) => (
  <div className="paper-only text-sm">
    Here are only the rows that stood on the screen. The whole plan, {sheet.rows.length} rows
    {sheet.dataDate !== null && `, data date ${dateWords(sheet.dataDate)}`}, is printed from the plan’s own print page.
  </div>
);

/** Shades that the chart's bars are drawn with. */
const Shades = () => (
  <svg width="0" height="0" className="absolute" aria-hidden="true">
    <defs>
      <linearGradient id="fading">
        <stop offset="0" stopColor="var(--band)" stopOpacity="0.9" />
        <stop offset="1" stopColor="var(--band)" stopOpacity="0.12" />
      </linearGradient>
    </defs>
  </svg>
);

/** A plan's tree as a table beside the time chart, to be worked on. */
export function PlanWork({ sheet, state, session, mayEdit, live, planKey, fresh = null }: Props) {
  const project = useProject();
  const { currency, minorDigits } = project.summary;
  const [params] = useSearchParams();
  const { chosen, current, onActive } = useChosen();
  const [finding, setFinding] = useState(false);
  const about = useAbout();
  const active = chosen?.row ?? null;
  const columns = usePlanColumns(sheet.fields, useWord()("parked"), params.get("cell"));
  const scroller = useRef<HTMLDivElement>(null);
  const table = useRef<SheetHandle>(null);
  const viewWidth = useWidth(scroller, 1280);
  const pane = usePane(columns.columns, viewWidth, scroller);
  const looks = useChartLook(sheet, session);
  const time = useTimeScale(
    sheet,
    scroller,
    pane.width,
    Math.max(LEAST_ROOM, viewWidth - pane.width - SCROLLBAR),
    looks.look.ghosts,
  );
  const shown = useShownRows(sheet);
  const undated = useMemo(
    () => sheet.rows.filter(({ kind, dates, parked }) => kind === "work" && dates === null && !parked),
    [sheet],
  );
  const reading = useReading(sheet);
  const present = usePlanNews(project.id, session, active?.id ?? null, live);
  const others = useMemo(() => othersAt(present), [present]);
  usePageKeys(
    session,
    () => setFinding(true),
    () => about.toggle("work", true),
  );

  const placeOf = (column: string): number => columns.columns.findIndex((each) => each.id === column);
  const jump = (instant: number): void =>
    scroller.current?.scrollTo({ left: Math.max(0, xOf(time.scale, instant) - 120), behavior: "instant" });
  /** Goes to an activity, unfolding what hides it. */
  const goTo = (id: string, column = "name"): void => {
    shown.unfold();
    setTimeout(() => table.current?.go(id, Math.max(0, placeOf(column))));
  };
  return (
    <div className={`flex h-full min-h-88 flex-col ${about.tab === null ? "" : "max-lg:h-auto"}`}>
      <PaperNote sheet={sheet} />
      <PlanToolbar
        sheet={sheet}
        state={state}
        session={session}
        mayEdit={mayEdit}
        tryOutOf={live ? project.id : null}
        chosen={chosen}
        current={current}
        shown={shown}
        columns={columns}
        finding={finding}
        onFind={setFinding}
        about={about}
        time={time}
        looks={looks}
        onJump={jump}
        printAt={`/projects/${project.id}/plan/print${params.size > 0 ? `?${params.toString()}` : ""}`}
      />
      <LookNotes project={project.id} looks={looks} />
      {finding && (
        <FindBar
          rows={shown.rows}
          columns={columns.columns}
          reading={reading}
          current={current}
          mayEdit={mayEdit}
          onGo={({ id, column }) => table.current?.go(id, placeOf(column))}
          onClose={() => {
            setFinding(false);
            table.current?.focus();
          }}
        />
      )}
      <Shades />
      <div className="flex min-h-0 flex-1 border-t rule max-lg:flex-col">
        <div className={`min-h-0 min-w-0 flex-1 ${about.tab === null ? "" : "max-lg:h-56 max-lg:flex-none"}`}>
          <PlanSheet
            sheet={sheet}
            rows={shown.rows}
            folded={shown.folded}
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
            currency={currency}
            others={others}
            scroller={scroller}
            onFold={shown.fold}
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
            column={columns.columns[chosen?.block.left ?? 0]?.id ?? null}
            sheet={sheet}
            session={session}
            mayEdit={mayEdit}
            onGo={goTo}
            onClose={() => {
              about.show(null);
              table.current?.focus();
            }}
            takesKeyboard={about.byKey}
          />
        )}
      </div>
      {undated.length > 0 && <Shelf rows={undated} onGo={(id) => goTo(id, "length")} />}
      <PlanFoot
        state={state}
        session={session}
        mayEdit={mayEdit}
        minorDigits={minorDigits}
        currency={currency}
        present={present}
        sheet={sheet}
      />
    </div>
  );
}
