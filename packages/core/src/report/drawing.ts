import { dateWords, shortDateWords } from "../words/dateWords.ts";
import { numberWords } from "../words/numberWords.ts";
import { epochDay, formatDate, parseDate } from "../time/instant.ts";

/** With what something is drawn; page and paper each have their colours for it. */
export type Ink = "ink" | "faint" | "hair" | "planned" | "earned" | "spent" | "late";

export type Shape =
  | {
      readonly is: "line";
      readonly points: readonly (readonly [x: number, y: number])[];
      readonly ink: Ink;
      readonly width: number;
      /** Lengths of strokes and gaps; empty for a line without. */
      readonly dash: readonly number[];
    }
  | {
      readonly is: "text";
      readonly x: number;
      /** Of the base line. */
      readonly y: number;
      readonly text: string;
      readonly ink: Ink;
      readonly anchor: "start" | "middle" | "end";
    };

/** A drawing in its own units, of which the letters are {@link LETTER} high. */
export interface Drawing {
  readonly width: number;
  readonly height: number;
  readonly shapes: readonly Shape[];
}

export const LETTER = 9;
const WIDTH = 520;

interface Label {
  readonly y: number;
  readonly text: string;
  readonly ink: Ink;
}

/** Labels moved apart so that none lies on another, in the order of where they belong, within a height. */
export function spread<T extends { readonly y: number }>(labels: readonly T[], least: number, height: number): T[] {
  const sorted = labels.toSorted((a, b) => a.y - b.y);
  const places = sorted.map(({ y }) => y);
  for (let i = 1; i < places.length; i++) places[i] = Math.max(places[i]!, places[i - 1]! + least);
  let limit = height;
  for (let i = places.length - 1; i >= 0 && places[i]! > limit; i--) {
    places[i] = limit;
    limit -= least;
  }
  return sorted.map((label, i) => ({ ...label, y: places[i]! }));
}

const STEPS = [1, 2, 2.5, 5, 10];

/** A round step that divides a span into some four parts. */
export function roundStep(span: number): number {
  if (span <= 0) return 1;
  const power = 10 ** Math.floor(Math.log10(span / 4));
  return STEPS.find((step) => step * power >= span / 4)! * power;
}

const text = (x: number, y: number, words: string, ink: Ink, anchor: "start" | "middle" | "end"): Shape => ({
  is: "text",
  x,
  y,
  text: words,
  ink,
  anchor,
});
const line = (
  points: readonly (readonly [number, number])[],
  ink: Ink,
  width = 1,
  dash: readonly number[] = [],
): Shape => ({
  is: "line",
  points,
  ink,
  width,
  dash,
});

const dayOf = (date: string): number => parseDate(date)!;

/** What a curve is drawn of; amounts in minor units, `null` where nothing is known. */
export interface CurveDrawn {
  readonly currency: string;
  readonly minorDigits: number;
  readonly dataDate: string | null;
  readonly points: readonly {
    readonly date: string;
    readonly pv: number;
    readonly ev: number | null;
    readonly ac: number | null;
  }[];
}

const LINES = [
  { key: "pv", name: "planned", ink: "planned", width: 1, dash: [4, 3] },
  { key: "ev", name: "earned", ink: "earned", width: 2, dash: [] },
  { key: "ac", name: "spent", ink: "spent", width: 1.4, dash: [1, 2] },
] as const;

/** The data date as one line from top to bottom, with its words. */
const dataDateLine = (at: number, top: number, foot: number, date: string): Shape[] => [
  line(
    [
      [at, top],
      [at, foot],
    ],
    "ink",
    0.8,
  ),
  text(at, top - 5, `data date ${dateWords(date)}`, "ink", "middle"),
];

/** Labels at the ends of lines, moved apart. */
const labelled = (labels: readonly Label[], at: number, foot: number): Shape[] =>
  spread(labels, LETTER + 3, foot).map((label) => text(at + 6, label.y + 3, label.text, label.ink, "start"));

/** Planned, earned and spent over time, each named at its end; told apart by their strokes as well as by colour. */
export function drawCurve({ currency, minorDigits, dataDate, points }: CurveDrawn): Drawing {
  const [left, right, top, bottom, height] = [64, 118, 16, 18, 190];
  const days = points.map(({ date }) => dayOf(date));
  const [first, last] = [Math.min(...days), Math.max(...days)];
  const most = Math.max(1, ...points.flatMap(({ pv, ev, ac }) => [pv, ev ?? 0, ac ?? 0]));
  const x = (day: number): number => left + ((day - first) / Math.max(1, last - first)) * (WIDTH - left - right);
  const y = (amount: number): number => height - bottom - (amount / most) * (height - bottom - top);
  const unit = 10 ** minorDigits;
  const step = roundStep(most / unit) * unit;
  const shapes: Shape[] = [text(0, 8, currency, "faint", "start")];
  for (let amount = 0; amount <= most; amount += step) {
    shapes.push(
      line(
        [
          [left, y(amount)],
          [WIDTH - right, y(amount)],
        ],
        "hair",
        0.6,
      ),
      text(left - 5, y(amount) + 3, numberWords(amount / unit, 0), "faint", "end"),
    );
  }
  shapes.push(
    text(left, height - 4, dateWords(formatDate(epochDay(first))), "faint", "start"),
    text(WIDTH - right, height - 4, dateWords(formatDate(epochDay(last))), "faint", "end"),
  );
  if (dataDate !== null && dayOf(dataDate) >= first && dayOf(dataDate) <= last)
    shapes.push(...dataDateLine(x(dayOf(dataDate)), top, height - bottom, dataDate));
  const labels: Label[] = [];
  for (const { key, name, ink, width, dash } of LINES) {
    const drawn = points.flatMap((point): [number, number][] =>
      point[key] === null ? [] : [[x(dayOf(point.date)), y(point[key])]],
    );
    const end = points.findLast((point) => point[key] !== null)?.[key];
    if (drawn.length === 0 || end == null) continue;
    shapes.push(line(drawn, ink, width, dash));
    labels.push({ y: drawn.at(-1)![1], text: `${name} ${numberWords(end / unit, 0)}`, ink });
  }
  return { width: WIDTH, height, shapes: [...shapes, ...labelled(labels, WIDTH - right, height - bottom)] };
}

/** What a trend is drawn of: dates of reports, and what each said of a milestone; `null` where it said nothing. */
export interface TrendDrawn {
  readonly dates: readonly string[];
  readonly lines: readonly { readonly name: string; readonly forecasts: readonly (string | null)[] }[];
}

const MOST_LETTERS = 30;
const shortened = (name: string): string =>
  name.length <= MOST_LETTERS ? name : `${name.slice(0, MOST_LETTERS - 1).trimEnd()}…`;

/** Which date each report forecast for each milestone: a level line stayed, a rising one was put off. */
export function drawTrend({ dates, lines }: TrendDrawn): Drawing {
  const [left, right, top, bottom] = [64, 170, 10, 18];
  const height = Math.max(150, lines.length * (LETTER + 4) + top + bottom);
  const reported = dates.map(dayOf);
  const said = lines.flatMap(({ forecasts }) => forecasts.flatMap((date) => (date === null ? [] : [dayOf(date)])));
  const [first, last] = [Math.min(...said, reported.at(-1)!), Math.max(...said, reported.at(-1)!)];
  const x = (i: number): number => left + (i / Math.max(1, dates.length - 1)) * (WIDTH - left - right);
  const y = (day: number): number =>
    height - bottom - ((day - first) / Math.max(1, last - first)) * (height - bottom - top);
  const shapes: Shape[] = [];
  const ends = [first, Math.round((first + last) / 2), last];
  for (const day of new Set(ends))
    shapes.push(
      line(
        [
          [left, y(day)],
          [WIDTH - right, y(day)],
        ],
        "hair",
        0.6,
      ),
      text(left - 5, y(day) + 3, dateWords(formatDate(epochDay(day))), "faint", "end"),
    );
  dates.forEach((date, i) => {
    const room = Math.ceil(dates.length / 6);
    if (i % room === 0 || i === dates.length - 1)
      shapes.push(text(x(i), height - 4, shortDateWords(date), "faint", "middle"));
  });
  const labels: Label[] = [];
  for (const { name, forecasts } of lines) {
    const drawn = forecasts.flatMap((date, i): [number, number][] => (date === null ? [] : [[x(i), y(dayOf(date))]]));
    if (drawn.length === 0) continue;
    const known = forecasts.filter((date) => date !== null);
    const ink = known.at(-1)! > known[0]! ? "late" : known.at(-1)! < known[0]! ? "earned" : "ink";
    shapes.push(line(drawn, ink, 1.4));
    labels.push({ y: drawn.at(-1)![1], text: `${shortened(name)} ${shortDateWords(known.at(-1)!)}`, ink });
  }
  return { width: WIDTH, height, shapes: [...shapes, ...labelled(labels, WIDTH - right, height - bottom)] };
}
