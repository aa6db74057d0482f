import { HOUSE_WORDS } from "@chronometra/contract";
import { useWord } from "../../project/useWord.ts";
import { Lane } from "./Lane.tsx";
import type { LaneShapes } from "./laneShapes.ts";

const NONE: LaneShapes = {
  bracket: null,
  band: null,
  doneTo: null,
  wedge: null,
  tail: null,
  spans: false,
  keel: false,
  pennants: null,
  deadline: null,
  moored: null,
  label: null,
};

/** How wide a sample is, in pixels. */
export const SAMPLE = 44;
const BAND: LaneShapes = { ...NONE, band: [2, 34], doneTo: 16 };

/** What is drawn in a lane, by a sample of each, as `laneShapes` draws it. */
export const SAMPLES: readonly { readonly words: string; readonly short?: string; readonly shapes: LaneShapes }[] = [
  { words: "approved", shapes: { ...NONE, bracket: [2, 34] } },
  { words: "now, darker where done", short: "now, done", shapes: BAND },
  { words: "late", shapes: { ...BAND, band: [2, 40], bracket: [2, 24], wedge: { from: 24, to: 40, late: true } } },
  { words: "early", shapes: { ...BAND, band: [2, 24], bracket: [2, 40], wedge: { from: 40, to: 24, late: false } } },
  { words: "critical", shapes: { ...BAND, keel: true } },
  { words: "float", shapes: { ...BAND, band: [2, 20], doneTo: 2, tail: [20, 42] } },
  { words: "milestone: approved, now", short: "milestone", shapes: { ...NONE, pennants: { approved: 6, now: 26 } } },
  { words: "deadline", shapes: { ...NONE, deadline: 20 } },
  { words: "level of effort", shapes: { ...BAND, spans: true } },
  { words: HOUSE_WORDS.parked, shapes: { ...NONE, moored: 14 } },
];

const HEIGHT = 21;

/** What the shapes of the time chart mean, in the words of the project. */
export function ChartKey() {
  const wordOf = useWord();
  return (
    <ul className="grid grid-cols-[auto_1fr] items-center gap-x-3 gap-y-0.5" aria-label="What is drawn">
      {SAMPLES.map(({ words, shapes }) => (
        <li key={words} className="contents">
          <svg width={SAMPLE} height={HEIGHT} aria-hidden="true">
            <Lane shapes={shapes} summary={false} height={HEIGHT} />
          </svg>
          <span>{words === HOUSE_WORDS.parked ? wordOf("parked") : words}</span>
        </li>
      ))}
    </ul>
  );
}

const GAP = 6;
/** How wide a letter of the printed words is at most, on average, and how much smaller samples are on paper. */
const LETTER = 5.3;
const SMALLER = 0.9;

/** Where each sample of the printed key begins, from 0 on, and where the last one ends. */
export function placesOfKey(): number[] {
  let at = 0;
  return [0, ...SAMPLES.map(({ words, short = words }) => (at += SAMPLE * SMALLER + short.length * LETTER + GAP))];
}

/** The same in one line at the foot of a page. */
export function PrintedKey({ x, y }: { x: number; y: number }) {
  const places = placesOfKey();
  return SAMPLES.map(({ words, short = words, shapes }, i) => (
    <g key={words} transform={`translate(${x + places[i]!} ${y})`}>
      <g transform={`scale(${SMALLER})`}>
        <Lane shapes={shapes} summary={false} height={HEIGHT} />
      </g>
      <text x={SAMPLE * SMALLER} y="14" fontSize="11" fill="var(--muted)">
        {short}
      </text>
    </g>
  ));
}
