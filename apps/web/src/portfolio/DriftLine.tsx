import type { Paths } from "@chronometra/contract";
import { dateWords, driftWords } from "../shared/words/words.ts";

const WIDTH = 72;
const HEIGHT = 18;
const INSET = 2;

interface Props {
  readonly path: Paths[string];
  readonly now: number | null;
}

/**
 * Points of a line through values, later being lower as in a log of soundings; all lines of a page share one scale of
 * days.
 */
export function driftPoints(values: readonly number[], most: number): string {
  const step = values.length > 1 ? (WIDTH - 2 * INSET) / (values.length - 1) : 0;
  const y = (days: number): number =>
    HEIGHT / 2 + (Math.max(-most, Math.min(most, days)) / most) * (HEIGHT / 2 - INSET);
  return values.map((days, i) => `${(INSET + i * step).toFixed(1)},${y(days).toFixed(1)}`).join(" ");
}

const MOST_DAYS = 40;

/** How a project's drift went from period to period: a line that sinks slips. */
export function DriftLine({ path, now }: Props) {
  const points = path.flatMap(({ drift }) => (drift === null ? [] : [drift]));
  const values = now === null ? points : [...points, now];
  if (values.length < 2) return <span className="muted">–</span>;
  const last = values.at(-1)!;
  const words = `${path.map(({ number, dataDate, drift }) => `Period ${number}, ${dateWords(dataDate)}: ${driftWords(drift)}`).join("\n")}${now === null ? "" : `\nNow: ${driftWords(now)}`}`;
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`Drift over the periods, from ${driftWords(values[0]!)} to ${driftWords(last)}`}
      className="inline-block align-middle"
    >
      <title>{words}</title>
      <line x1={0} x2={WIDTH} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="var(--color-base-300)" />
      <polyline
        points={driftPoints(values, MOST_DAYS)}
        fill="none"
        stroke={last > 0.05 ? "var(--color-error)" : last < -0.05 ? "var(--color-success)" : "currentColor"}
        strokeWidth={1.5}
      />
      <circle cx={WIDTH - INSET} cy={Number(driftPoints([last], MOST_DAYS).split(",")[1])} r={2} fill="currentColor" />
    </svg>
  );
}
