import { extentOf } from "../chart/laneShapes.ts";
import type { Scale } from "../chart/scale.ts";
import { HEAD_HEIGHT } from "../chart/ChartHead.tsx";
import { ROW_HEIGHT } from "../chart/scale.ts";
import type { SheetRow } from "../engine/sheet.ts";

/** Paper lying on its side, within its margins, in pixels of 1/96 inch. */
export const PAPERS = {
  a4: { name: "A4", width: 1047, height: 718, css: "A4 landscape" },
  a3: { name: "A3", width: 1512, height: 1047, css: "A3 landscape" },
  letter: { name: "Letter", width: 980, height: 740, css: "letter landscape" },
} as const;
export type Paper = keyof typeof PAPERS;

export const TITLE_HEIGHT = 30;
export const FOOT_HEIGHT = 24;
/** Room for "page 12 of 34" at the foot. */
export const PAGE_NUMBER = 90;
const DAY = 1440;
const MARGIN_DAYS = 4;
const LABEL_PIXELS = 80;

/** A column of the plan as wide as it is on paper. */
export interface PrintedColumn {
  readonly id: string;
  readonly width: number;
}

/** One page: some rows, some of the columns, and a part of the time. */
export interface PrintedPage {
  readonly rows: readonly SheetRow[];
  /** The name, and those that stand on this page; pages further right repeat only the name. */
  readonly columns: readonly PrintedColumn[];
  /** How wide the table on it is. */
  readonly left: number;
  /** The part of the time; `null` where the columns take the whole page. */
  readonly scale: Scale | null;
  readonly down: number;
  readonly across: number;
}

interface Wanted {
  readonly rows: readonly SheetRow[];
  readonly start: string;
  readonly dataDate: string | null;
  readonly paper: Paper;
  /** Over how many pages the time reaches. */
  readonly wide: number;
  /** The name first. */
  readonly columns: readonly PrintedColumn[];
}

const MOST_OF_NAME = 0.4;
/** Beside a table that is wider than that the time has no room. */
const MOST_OF_TABLE = 0.7;

const widthOf = (columns: readonly PrintedColumn[]): number => columns.reduce((sum, { width }) => sum + width, 0);

/** Columns by page, from left to right, the name on each; the time begins beside the last of them. */
export function columnsByPage([name, ...rest]: readonly PrintedColumn[], width: number): PrintedColumn[][] {
  const first = { ...name!, width: Math.min(name!.width, Math.floor(width * MOST_OF_NAME)) };
  const parts: PrintedColumn[][] = [[first]];
  for (const column of rest) {
    const cut = { ...column, width: Math.min(column.width, width - first.width) };
    if (widthOf(parts.at(-1)!) + cut.width > width) parts.push([first]);
    parts.at(-1)!.push(cut);
  }
  if (widthOf(parts.at(-1)!) > width * MOST_OF_TABLE) parts.push([first]);
  return parts;
}

/** How many rows stand on a page. */
export const rowsOnPage = (paper: Paper): number =>
  Math.floor((PAPERS[paper].height - TITLE_HEIGHT - FOOT_HEIGHT - HEAD_HEIGHT) / ROW_HEIGHT);

/**
 * Lays a plan out over pages, from left to right and then down: first the columns, then the time. Every row, every column and
 * every day of the chart stands on exactly one.
 */
export function layOutPages({ rows, start, dataDate, paper, wide, columns }: Wanted): PrintedPage[] {
  const { width } = PAPERS[paper];
  const perPage = rowsOnPage(paper);
  const tables = columnsByPage(columns, width);
  const charts = [...tables.slice(-1), ...Array.from({ length: wide - 1 }, () => tables[0]!.slice(0, 1))];
  const scales = scalesOver(
    charts.map((beside) => width - widthOf(beside)),
    extentOf(rows, dataDate, start),
  );
  const across = [
    ...tables.slice(0, -1).map((each) => ({ columns: each, left: width, scale: null })),
    ...charts.map((beside, i) => ({ columns: beside, left: widthOf(beside), scale: scales[i]! })),
  ];
  const down = Math.max(1, Math.ceil(rows.length / perPage));
  return Array.from({ length: down }, (_page, n) =>
    across.map((page, i) => ({ ...page, rows: rows.slice(n * perPage, (n + 1) * perPage), down: n, across: i })),
  ).flat();
}

/** The time of a plan over pages that have so much room, one going on where the other ends. */
function scalesOver(rooms: readonly number[], extent: { readonly from: number; readonly to: number }): Scale[] {
  let begins = extent.from - MARGIN_DAYS * DAY;
  const room = rooms.reduce((sum, each) => sum + each, 0);
  const pixelsPerDay = Math.max(0.05, (room - LABEL_PIXELS) / ((extent.to - begins) / DAY + MARGIN_DAYS));
  return rooms.map((each) => {
    const from = begins;
    begins += (each / pixelsPerDay) * DAY;
    return { from, to: begins, pixelsPerDay };
  });
}
