import { extentOf } from "../chart/laneShapes.ts";
import type { Scale } from "../chart/scale.ts";
import { HEAD_HEIGHT } from "../chart/ChartHead.tsx";
import { ROW_HEIGHT } from "../grid/SheetLine.tsx";
import type { SheetRow } from "../engine/sheet.ts";

/** Paper lying on its side, within its margins, in pixels of 1/96 inch. */
export const PAPERS = {
  a4: { name: "A4", width: 1047, height: 718, css: "A4 landscape" },
  a3: { name: "A3", width: 1512, height: 1047, css: "A3 landscape" },
  letter: { name: "Letter", width: 980, height: 740, css: "letter landscape" },
} as const;
export type Paper = keyof typeof PAPERS;

export const TITLE_HEIGHT = 30;
export const FOOT_HEIGHT = 20;
const DAY = 1440;
const MARGIN_DAYS = 4;
const LABEL_PIXELS = 80;

/** One page: some rows, and a part of the time. */
export interface PrintedPage {
  readonly rows: readonly SheetRow[];
  /** How wide the table on it is; pages further right repeat only the names. */
  readonly left: number;
  readonly scale: Scale;
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
  readonly columnsWidth: number;
  readonly nameWidth: number;
}

/** How many rows stand on a page. */
export const rowsOnPage = (paper: Paper): number => Math.floor((PAPERS[paper].height - TITLE_HEIGHT - FOOT_HEIGHT - HEAD_HEIGHT) / ROW_HEIGHT);

/** Lays a plan out over pages, from left to right and then down. Every row and every day of the chart stands on exactly one. */
export function layOutPages({ rows, start, dataDate, paper, wide, columnsWidth, nameWidth }: Wanted): PrintedPage[] {
  const { width } = PAPERS[paper];
  const perPage = rowsOnPage(paper);
  const extent = extentOf(rows, dataDate, start);
  const from = extent.from - MARGIN_DAYS * DAY;
  const table = Math.min(columnsWidth, Math.floor(width * 0.6));
  const rooms = Array.from({ length: wide }, (_page, across) => width - (across === 0 ? table : Math.min(nameWidth, table)));
  const room = rooms.reduce((sum, each) => sum + each, 0);
  const pixelsPerDay = Math.max(0.05, (room - LABEL_PIXELS) / ((extent.to - from) / DAY + MARGIN_DAYS));
  const pages: PrintedPage[] = [];
  for (let down = 0; down < Math.max(1, Math.ceil(rows.length / perPage)); down++) {
    let begins = from;
    for (let across = 0; across < wide; across++) {
      const ends = begins + (rooms[across]! / pixelsPerDay) * DAY;
      pages.push({ rows: rows.slice(down * perPage, (down + 1) * perPage), left: width - rooms[across]!, scale: { from: begins, to: ends, pixelsPerDay }, down, across });
      begins = ends;
    }
  }
  return pages;
}
