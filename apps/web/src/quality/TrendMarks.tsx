import type { QualityView } from "@chronometra/contract";
import { dateWords, numberWords } from "../shared/words/words.ts";

const WIDTH = 74;
const HEIGHT = 18;
const STEP = 9;
const MOST = Math.floor(WIDTH / STEP);

/** What a check came to period by period: a stroke each, standing where it held, hanging where it did not. */
export function TrendMarks({ name, trend }: { name: string; trend: QualityView["checks"][number]["trend"] }) {
  const last = trend.slice(-MOST);
  if (last.length === 0) return <span className="muted text-xs">no period yet</span>;
  const held = last.filter(({ passes }) => passes === true).length;
  const words = last
    .map(
      ({ period, dataDate, value, passes }) =>
        `Period ${period}, ${dateWords(dataDate)}: ${passes === null ? "nothing to count" : `${passes ? "held" : "failed"}${value === null ? "" : `, ${numberWords(value, 2)}`}`}`,
    )
    .join("\n");
  return (
    <svg
      width={WIDTH}
      height={HEIGHT}
      role="img"
      aria-label={`${name} held in ${held} of the last ${last.length} periods`}
      className="inline-block align-middle"
    >
      <title>{words}</title>
      <line x1={0} x2={last.length * STEP} y1={HEIGHT / 2} y2={HEIGHT / 2} stroke="var(--color-base-300)" />
      {last.map(
        ({ period, passes }, i) =>
          passes !== null && (
            <line
              key={period}
              x1={i * STEP + 4}
              x2={i * STEP + 4}
              y1={HEIGHT / 2}
              y2={passes ? 2 : HEIGHT - 2}
              stroke={passes ? "var(--color-success)" : "var(--color-error)"}
              strokeWidth={3}
            />
          ),
      )}
    </svg>
  );
}
