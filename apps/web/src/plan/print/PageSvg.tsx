import { closeOf, parseDate } from "@chronometra/core";
import { dateWords } from "../../shared/words/words.ts";
import { ChartHead, HEAD_HEIGHT } from "../chart/ChartHead.tsx";
import { PrintedKey } from "../chart/ChartKey.tsx";
import { Lane } from "../chart/Lane.tsx";
import { laneShapes } from "../chart/laneShapes.ts";
import { ticksOf, xOf, type Scale } from "../chart/scale.ts";
import type { ChartLook } from "../chart/chartLook.ts";
import type { Sheet } from "../engine/sheet.ts";
import type { SheetColumn } from "../engine/sheetColumn.ts";
import { ROW_HEIGHT } from "../chart/scale.ts";
import { FOOT_HEIGHT, PAPERS, TITLE_HEIGHT, type Paper, type PrintedPage } from "./pages.ts";

interface Props {
  readonly page: PrintedPage;
  readonly number: number;
  readonly count: number;
  readonly paper: Paper;
  readonly title: string;
  readonly sheet: Sheet;
  readonly columns: readonly SheetColumn[];
  readonly look: ChartLook;
}

const INDENT = 12;
/** Beside what stands at the edges of a page. */
const MARGIN = 6;
const TOP = TITLE_HEIGHT + HEAD_HEIGHT;

const TONES = {
  adverse: "var(--adverse)",
  favourable: "var(--favourable)",
  undecided: "var(--undecided)",
  plain: "var(--ink)",
};

/** Cells of the page's table, each cut off at its edge. */
function Table({ page, sheet, columns, number }: Pick<Props, "page" | "sheet" | "columns" | "number">) {
  let x = 0;
  return page.columns.map(({ id, width }) => {
    const column = columns.find((each) => each.id === id)!;
    const left = x;
    x += width;
    const right = column.numeric === true;
    const [at, anchor] = right ? [left + width - 6, "end" as const] : [left + 6, "start" as const];
    const isName = id === "name";
    const clip = `cell-${number}-${id}`;
    return (
      <g key={id}>
        <clipPath id={clip}>
          <rect x={left} y={0} width={width - 3} height={TOP + page.rows.length * ROW_HEIGHT} />
        </clipPath>
        <g clipPath={`url(#${clip})`}>
          <text x={at} y={TOP - 5} textAnchor={anchor} fontWeight="600" fill="var(--muted)">
            {column.head}
          </text>
          {page.rows.map((row, i) => (
            <text
              key={row.id}
              x={at + (isName ? row.depth * INDENT : 0)}
              y={TOP + i * ROW_HEIGHT + 15}
              textAnchor={anchor}
              fontWeight={isName && row.kind === "summary" ? "600" : "400"}
              fill={TONES[column.tone?.(row) ?? "plain"]}
            >
              {column.text(row, sheet)}
            </text>
          ))}
        </g>
      </g>
    );
  });
}

/** The lanes of the page's rows, and above them the days. */
function TimePart({
  page,
  sheet,
  look,
  scale,
  width,
}: Pick<Props, "page" | "sheet" | "look"> & { scale: Scale; width: number }) {
  const { left, rows } = page;
  const tall = rows.length * ROW_HEIGHT;
  const { major, minor } = ticksOf(scale);
  const lines = scale.pixelsPerDay >= 4 ? minor : [...major, ...minor];
  const data = sheet.dataDate === null ? null : xOf(scale, closeOf(parseDate(sheet.dataDate)!));
  return (
    <>
      <svg x={left} y={TITLE_HEIGHT} width={width} height={HEAD_HEIGHT}>
        <ChartHead scale={scale} dataDate={sheet.dataDate} />
      </svg>
      <svg x={left} y={TOP} width={width} height={tall}>
        {lines.map(
          ({ x }, i) =>
            x >= 0 && <line key={i} x1={x} x2={x} y1="0" y2={tall} stroke="var(--hairline)" strokeOpacity="0.6" />,
        )}
        {data !== null && data >= 0 && data <= width && (
          <line x1={data} x2={data} y1="0" y2={tall} stroke="var(--brass)" strokeWidth="1.5" />
        )}
        {rows.map((row, i) => (
          <g key={row.id} transform={`translate(0 ${i * ROW_HEIGHT})`}>
            <Lane
              shapes={laneShapes(row, scale, look.withApproved)}
              summary={row.kind === "summary"}
              height={ROW_HEIGHT}
              coloured={look.colouring?.of(row) ?? null}
              dim={look.lit !== null && !look.lit.has(row.id)}
            />
          </g>
        ))}
      </svg>
      <line x1={left} x2={left} y1={TITLE_HEIGHT} y2={TOP + tall} stroke="var(--ink)" />
    </>
  );
}

/** One printed page of the plan, as a picture by itself. */
export function PageSvg({ page, number, count, paper, title, sheet, columns, look }: Props) {
  const { width, height } = PAPERS[paper];
  const { scale, left, rows } = page;
  return (
    <svg
      xmlns="http://www.w3.org/2000/svg"
      className="print-sheet block"
      role="img"
      aria-label={`Page ${number} of ${count}`}
      viewBox={`0 0 ${width} ${height}`}
      width={width}
      height={height}
      fontSize="12.5"
      fontFamily="'Source Sans 3 Variable', sans-serif"
      style={{ background: "var(--ground)" }}
    >
      <defs>
        <linearGradient id="fading">
          <stop offset="0" stopColor="var(--band)" stopOpacity="0.9" />
          <stop offset="1" stopColor="var(--band)" stopOpacity="0.12" />
        </linearGradient>
      </defs>
      <rect width={width} height={height} fill="var(--ground)" />
      <text x="6" y="19" fontSize="16" fontWeight="500" fill="var(--ink)">
        {title}
      </text>
      <text x={width - 6} y="19" textAnchor="end" fill="var(--muted)">
        {sheet.dataDate === null ? "" : `data date ${dateWords(sheet.dataDate)}`}
        {look.withApproved && sheet.baseline !== null ? ` · against baseline ${sheet.baseline}` : ""}
        {look.colouring === null
          ? ""
          : ` · ${look.colouring.field.name}: ${look.colouring.legend.map(({ value }) => value).join(", ")}`}
      </text>
      <Table page={page} sheet={sheet} columns={columns} number={number} />
      <line x1="0" x2={width} y1={TOP} y2={TOP} stroke="var(--ink)" />
      {scale !== null && <TimePart page={page} sheet={sheet} look={look} scale={scale} width={width - left} />}
      {rows.map((row, i) => (
        <line
          key={row.id}
          x1="0"
          x2={width}
          y1={TOP + (i + 1) * ROW_HEIGHT}
          y2={TOP + (i + 1) * ROW_HEIGHT}
          stroke="var(--hairline)"
          strokeWidth="0.7"
        />
      ))}
      <text x={width - 6} y={height - 6} textAnchor="end" fill="var(--muted)">
        page {number} of {count}
      </text>
      {scale !== null && <PrintedKey x={MARGIN} y={height - FOOT_HEIGHT + 3} />}
    </svg>
  );
}
