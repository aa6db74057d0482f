import type { Promised } from "@chronometra/contract";
import { dateWords, isSettled, standingWords } from "../shared/words/words.ts";
import { dateScale } from "./timeLine.ts";

const LANE = 26;
const HEAD = 26;
const WIDTH = 900;
const NAME = 210;

interface Props {
  readonly rows: readonly Promised[];
  readonly dataDate: string | null;
  readonly chosen: string | null;
  readonly onChoose: (key: string) => void;
}

export const promiseKey = ({ project, id }: Pick<Promised, "project" | "id">): string => `${project}:${id}`;

/**
 * Deadlines on a line of time: the barb is the promise, the pennant the forecast, and between them the wedge of what is
 * short or in hand.
 */
export function PromiseLine({ rows, dataDate, chosen, onChoose }: Props) {
  if (rows.length === 0) return null;
  const scale = dateScale(
    [...rows.flatMap(({ deadline, finish }) => [deadline, finish]), ...(dataDate === null ? [] : [dataDate])],
    WIDTH,
  );
  const height = HEAD + rows.length * LANE;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Deadlines on a line of time">
      <svg
        width={NAME + WIDTH + 20}
        height={height}
        className="block font-sans text-[12px]"
        role="group"
        aria-label="The table below says the same"
      >
        {scale.months.map(({ x, name, year }) => (
          <g key={`${x}`} transform={`translate(${NAME + x} 0)`}>
            <line y1={HEAD - 8} y2={height} stroke="var(--color-base-300)" />
            <text y={HEAD - 12} x={3} fill="currentColor" opacity={0.75}>
              {name}
              {year !== null && ` ${year}`}
            </text>
          </g>
        ))}
        {dataDate !== null && (
          <line
            x1={NAME + scale.xOf(dataDate)}
            x2={NAME + scale.xOf(dataDate)}
            y1={HEAD - 8}
            y2={height}
            stroke="var(--color-accent)"
            strokeWidth={1.5}
          >
            <title>Data date {dateWords(dataDate)}</title>
          </line>
        )}
        {rows.map((row, i) => {
          const y = HEAD + i * LANE;
          const [promised, forecast] = [NAME + scale.xOf(row.deadline), NAME + scale.xOf(row.finish)];
          const late = row.state !== "dropped" && (row.finish > row.deadline || (row.marginDays ?? 0) < 0);
          const tone = late ? "var(--adverse)" : row.state === "tight" ? "var(--undecided)" : "var(--favourable)";
          const key = promiseKey(row);
          return (
            <g key={key} onClick={() => onChoose(key)} className="cursor-pointer">
              <rect
                x={0}
                y={y}
                width={NAME + WIDTH + 20}
                height={LANE}
                fill={chosen === key ? "var(--color-base-200)" : "transparent"}
              />
              <title>{`${row.name}, ${row.code}: ${standingWords(row.state, row.marginDays)}`}</title>
              <text x={4} y={y + 17} fill="currentColor">
                {row.name.length > 26 ? `${row.name.slice(0, 25)}…` : row.name} <tspan opacity={0.7}>{row.code}</tspan>
              </text>
              <line
                x1={NAME}
                x2={NAME + WIDTH}
                y1={y + LANE}
                y2={y + LANE}
                stroke="var(--color-base-300)"
                strokeWidth={0.5}
              />
              <polygon
                points={`${promised},${y + 5} ${forecast},${y + 12} ${promised},${y + 19}`}
                fill={tone}
                opacity={0.3}
              />
              <path
                d={`M${promised} ${y + 3} v18 m-4 -14 l4 -4 l4 4`}
                fill="none"
                stroke="currentColor"
                strokeWidth={1.5}
              />
              <path
                d={`M${forecast} ${y + 21} v-18 l9 4 l-9 4`}
                fill={isSettled(row.state) ? "none" : tone}
                stroke={tone}
                strokeWidth={1.5}
              />
            </g>
          );
        })}
      </svg>
    </div>
  );
}
