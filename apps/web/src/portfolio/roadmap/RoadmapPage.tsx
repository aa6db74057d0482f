import type { Roadmap } from "@chronometra/contract";
import { closeOf, MONTHS, openOf, parseDate } from "@chronometra/core";
import { queryOptions, useQuery } from "@tanstack/react-query";
import { ChevronDown, ChevronRight } from "lucide-react";
import { useLayoutEffect, useMemo, useRef, useState } from "react";
import { Link } from "react-router";
import { ChartHead, HEAD_HEIGHT } from "../../plan/chart/ChartHead.tsx";
import { widthOf, xOf, type Scale } from "../../plan/chart/scale.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { call } from "../../shared/session/api.ts";
import { countWords } from "../../shared/words/words.ts";
import { GroupLane, RoadLane, ROAD_HEIGHT } from "./RoadLane.tsx";
import { ROAD_GROUPS, roadRows, unfolded, type RoadGroup, type RoadRow } from "./roadRows.ts";
import { extentOfRoad } from "./roadShapes.ts";

const roadmapQuery = queryOptions({
  queryKey: ["portfolio", "roadmap"],
  queryFn: () => call("GET /api/portfolio/roadmap", {}),
});

const NAMES_WIDTH = 270;
const GROUP_HEIGHT = 24;
const MARGIN_DAYS = 10;
const LABEL_PIXELS = 90;
/** Above so many projects groups begin folded. */
const MANY = 200;

const ZOOMS = { all: null, years: 0.6, quarters: 1.6, months: 4 } as const;
type Zoom = keyof typeof ZOOMS;
const ZOOM_WORDS: Readonly<Record<Zoom, string>> = {
  all: "all in sight",
  years: "by years",
  quarters: "by quarters",
  months: "by months",
};
const GROUP_WORDS: Readonly<Record<RoadGroup, string>> = {
  programme: "group",
  manager: "manager",
  stage: "stage",
  none: "nothing",
};

const isZoom = (text: string | null): text is Zoom => text !== null && text in ZOOMS;
const isGroup = (text: string | null): text is RoadGroup => (ROAD_GROUPS as readonly (string | null)[]).includes(text);

/** The axis on which all lie: so many pixels a day, or as many as leave all in sight. */
function scaleOf(extent: { from: string; to: string }, zoom: Zoom, width: number): Scale {
  const from = openOf(parseDate(extent.from)!) - MARGIN_DAYS * 1440;
  const last = closeOf(parseDate(extent.to)!) + MARGIN_DAYS * 1440;
  const days = (last - from) / 1440;
  const pixelsPerDay = ZOOMS[zoom] ?? Math.max(0.15, (width - NAMES_WIDTH - LABEL_PIXELS) / days);
  return { from, to: last + (LABEL_PIXELS / pixelsPerDay) * 1440, pixelsPerDay };
}

/** The months of some days, each with its first one. */
function monthsOf({ from, to }: { from: string; to: string }): { day: string; name: string }[] {
  const months: { day: string; name: string }[] = [];
  let [year, month] = [Number(from.slice(0, 4)), Number(from.slice(5, 7))];
  for (; `${year}-${String(month).padStart(2, "0")}` <= to.slice(0, 7); month === 12 ? (year++, (month = 1)) : month++)
    months.push({ day: `${year}-${String(month).padStart(2, "0")}-01`, name: `${MONTHS[month - 1]} ${year}` });
  return months;
}

interface RowProps {
  readonly row: RoadRow;
  readonly scale: Scale;
  readonly folded: boolean;
  readonly onFold: (id: string) => void;
}

/** What stands left of a lane: a group that folds, or a project that opens. */
function Name({ row, folded, onFold }: Omit<RowProps, "scale">) {
  const indent = { paddingLeft: `${0.5 + row.depth}rem` };
  if (row.is === "group")
    return (
      <button
        type="button"
        className="flex w-full cursor-pointer items-center gap-1 text-left font-semibold"
        style={indent}
        aria-expanded={!folded}
        onClick={() => onFold(row.id)}
      >
        {folded ? <ChevronRight size={14} aria-hidden="true" /> : <ChevronDown size={14} aria-hidden="true" />}
        <span className="truncate" title={row.name}>
          {row.name}
        </span>
        <span className="muted shrink-0 font-normal">{row.lines.length}</span>
      </button>
    );
  const { id, code, name, stage } = row.line;
  return (
    <span className="flex min-w-0 flex-col" style={indent}>
      <Link className="link-quiet truncate" to={`/projects/${id}`} title={`${code} ${name}`}>
        <span className="muted">{code}</span> {name}
      </Link>
      {stage !== null && <span className="muted truncate text-xs">{stage}</span>}
    </span>
  );
}

/** One line of the roadmap: its name, which stays in sight, and its lane. */
function Row({ row, scale, folded, onFold }: RowProps) {
  const height = row.is === "group" ? GROUP_HEIGHT : ROAD_HEIGHT;
  return (
    <div
      role="row"
      className="flex border-b rule"
      style={{ height, contentVisibility: "auto", containIntrinsicSize: `auto ${height}px` }}
    >
      <div
        role="rowheader"
        className="sticky left-0 z-10 flex shrink-0 items-center border-r rule bg-base-100 pr-2 text-sm"
        style={{ width: NAMES_WIDTH }}
      >
        <Name row={row} folded={folded} onFold={onFold} />
      </div>
      <div role="cell" className="relative">
        {row.is === "group" ? (
          <GroupLane lines={row.lines} scale={scale} />
        ) : (
          <RoadLane line={row.line} scale={scale} />
        )}
      </div>
    </div>
  );
}

interface ToolsProps {
  readonly by: RoadGroup;
  readonly zoom: Zoom;
  readonly filter: string;
  readonly months: readonly { readonly day: string; readonly name: string }[];
  readonly onPut: (change: Readonly<Record<string, string | null>>) => void;
  readonly onMonth: (day: string) => void;
}

function Tools({ by, zoom, filter, months, onPut, onMonth }: ToolsProps) {
  return (
    <div className="flex flex-wrap items-center gap-3 pb-2 text-sm">
      <input
        className="input input-sm w-48"
        aria-label="Filter projects"
        placeholder="Filter"
        value={filter}
        onChange={(event) => onPut({ filter: event.target.value })}
      />
      <label className="flex items-center gap-1">
        by
        <select
          className="select select-sm w-auto"
          aria-label="Group projects by"
          value={by}
          onChange={(event) => onPut({ by: event.target.value === "programme" ? null : event.target.value })}
        >
          {ROAD_GROUPS.map((each) => (
            <option key={each} value={each}>
              {GROUP_WORDS[each]}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1">
        drawn
        <select
          className="select select-sm w-auto"
          aria-label="How much is in sight"
          value={zoom}
          onChange={(event) => onPut({ zoom: event.target.value === "all" ? null : event.target.value })}
        >
          {(Object.keys(ZOOMS) as Zoom[]).map((each) => (
            <option key={each} value={each}>
              {ZOOM_WORDS[each]}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1">
        go to
        <select
          className="select select-sm w-auto"
          aria-label="Go to a month"
          value=""
          onChange={(event) => onMonth(event.target.value)}
        >
          <option value="">a month …</option>
          {months.map(({ day, name }) => (
            <option key={day} value={day}>
              {name}
            </option>
          ))}
        </select>
      </label>
      <span className="muted ml-auto">
        bracket approved · band now, done part denser · pennant milestone · barbs deadline · leaves gate
      </span>
    </div>
  );
}

/** Which groups are folded: said in the address, or all where there are very many projects. */
function foldedIn(text: string | null, rows: readonly RoadRow[], count: number): ReadonlySet<string> {
  if (text !== null) return new Set(text.split(",").filter((id) => id !== ""));
  return new Set(count > MANY ? rows.flatMap((row) => (row.is === "group" ? [row.id] : [])) : []);
}

function Road({ roadmap }: { roadmap: Roadmap }) {
  const [params, put] = useAddress();
  const pane = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(1200);
  useLayoutEffect(() => {
    const element = pane.current;
    if (element === null) return;
    const measure = (): void => setWidth(element.clientWidth);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const [byText, zoomText, filter] = [params.get("by"), params.get("zoom"), params.get("filter") ?? ""];
  const by = isGroup(byText) ? byText : "programme";
  const zoom = isZoom(zoomText) ? zoomText : "all";
  const rows = useMemo(() => roadRows(roadmap, by, filter), [roadmap, by, filter]);
  const foldedText = params.get("folded");
  const folded = useMemo(
    () => foldedIn(foldedText, rows, roadmap.projects.length),
    [foldedText, rows, roadmap.projects.length],
  );
  const extent = useMemo(() => extentOfRoad(roadmap.projects, roadmap.dataDate), [roadmap]);
  const scale = useMemo(() => (extent === null ? null : scaleOf(extent, zoom, width)), [extent, zoom, width]);
  if (scale === null || extent === null)
    return <p>No project has dates yet; once one has, it lies here in time beside the others.</p>;
  const fold = (id: string): void => {
    const next = new Set(folded);
    if (!next.delete(id)) next.add(id);
    put({ folded: [...next].join(",") || (roadmap.projects.length > MANY ? "," : null) });
  };
  const shown = unfolded(rows, folded);
  const data = roadmap.dataDate === null ? null : xOf(scale, closeOf(parseDate(roadmap.dataDate)!));
  return (
    <>
      <Tools
        {...{ by, zoom, filter }}
        months={monthsOf(extent)}
        onPut={put}
        onMonth={(day) =>
          day !== "" && pane.current?.scrollTo({ left: Math.max(0, xOf(scale, openOf(parseDate(day)!)) - 8) })
        }
      />
      <div
        ref={pane}
        role="table"
        aria-label="Roadmap"
        tabIndex={0}
        className="relative min-h-0 flex-1 overflow-auto border-t rule"
      >
        <div style={{ width: NAMES_WIDTH + widthOf(scale) }} className="relative">
          <div className="sticky top-0 z-20 flex border-b rule bg-base-100" style={{ height: HEAD_HEIGHT }}>
            <div className="sticky left-0 z-10 shrink-0 border-r rule bg-base-100" style={{ width: NAMES_WIDTH }} />
            <div className="relative" style={{ width: widthOf(scale) }}>
              <ChartHead scale={scale} dataDate={roadmap.dataDate} beside={NAMES_WIDTH} />
            </div>
          </div>
          {data !== null && (
            <div
              aria-hidden="true"
              className="pointer-events-none absolute bottom-0 z-[5] border-l-2"
              style={{ left: NAMES_WIDTH + data, top: HEAD_HEIGHT, borderColor: "var(--brass)" }}
            />
          )}
          {shown.map((row) => (
            <Row
              key={row.is === "group" ? `group ${row.id}` : row.line.id}
              row={row}
              scale={scale}
              folded={row.is === "group" && folded.has(row.id)}
              onFold={fold}
            />
          ))}
          {shown.length === 0 && <p className="muted p-4">No project is called so.</p>}
        </div>
      </div>
    </>
  );
}

/** All projects on one axis of time: approved against current, with milestones, deadlines and gates. */
export function RoadmapPage() {
  const query = useQuery(roadmapQuery);
  return (
    <div className="page flex h-full min-h-0 flex-col">
      <h1 className="pb-2 text-xl">
        Roadmap{" "}
        {query.data !== undefined && (
          <span className="muted text-sm font-normal">
            {countWords(query.data.projects.length, "project", "projects")} that are not closed
          </span>
        )}
      </h1>
      <Loaded query={query}>{(roadmap) => <Road roadmap={roadmap} />}</Loaded>
    </div>
  );
}
