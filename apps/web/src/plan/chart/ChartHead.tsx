import { memo } from "react";
import { closeOf, parseDate } from "@chronometra/core";
import { dateWords } from "../../shared/words/words.ts";
import { ticksOf, widthOf, xOf, type Scale, type Tick } from "./scale.ts";

export const HEAD_HEIGHT = 34;

interface Props {
  readonly scale: Scale;
  readonly dataDate: string | null;
  /** Where the chart is scrolled below a table: how wide that is. The name of a period stays in sight beside it. */
  readonly beside?: number;
}

const NARROW = 60;

/** Names of years, months or days; each stays in sight while a part of its period is. */
function Periods({ major, width, beside }: { major: readonly Tick[]; width: number; beside: number }) {
  return major.map(({ x, label }, i) => (
    <div
      key={x}
      className="muted pointer-events-none absolute top-0 text-[11px] leading-[18px] font-semibold"
      style={{ left: Math.max(0, x), width: Math.max(0, (major[i + 1]?.x ?? width) - Math.max(0, x)) }}
    >
      <span className="sticky inline-block max-w-full overflow-hidden px-1 whitespace-nowrap" style={{ left: beside }}>
        {label}
      </span>
    </div>
  ));
}

/** Years, months, weeks, days or hours above the lanes, and the dial on the data date. */
export const ChartHead = memo(function ChartHead({ scale, dataDate, beside }: Props) {
  const { major, minor } = ticksOf(scale);
  const x = dataDate === null ? null : xOf(scale, closeOf(parseDate(dataDate)!));
  const drawing = (
    <svg
      width={widthOf(scale)}
      height={HEAD_HEIGHT}
      aria-hidden="true"
      className="block"
      fontSize="11"
      fill="var(--muted)"
    >
      {major.map((tick, i) => (
        <g key={tick.x}>
          <line x1={tick.x} x2={tick.x} y1="0" y2={HEAD_HEIGHT} stroke="var(--hairline)" />
          {/* On paper the name of a period that begins left of the chart stands at its edge, where there is room. */}
          {beside === undefined && (tick.x >= 0 || (major[i + 1]?.x ?? Infinity) >= NARROW) && (
            <text x={Math.max(tick.x, 0) + 5} y="13" fontWeight="600">
              {tick.label}
            </text>
          )}
        </g>
      ))}
      {minor.map((tick) => (
        <g key={tick.x}>
          <line x1={tick.x} x2={tick.x} y1="19" y2={HEAD_HEIGHT} stroke="var(--hairline)" />
          {tick.x >= 0 && (
            <text x={tick.x + 3} y="30">
              {tick.label}
            </text>
          )}
        </g>
      ))}
      {x !== null && (
        <g>
          <title>Data date {dateWords(dataDate)}</title>
          <circle cx={x} cy="25" r="7" fill="var(--ground)" stroke="var(--brass)" strokeWidth="1.6" />
          <path
            d={`M${x} 25 V20.5 M${x} 25 l3 2`}
            stroke="var(--brass)"
            strokeWidth="1.4"
            fill="none"
            strokeLinecap="round"
          />
        </g>
      )}
    </svg>
  );
  if (beside === undefined) return drawing;
  return (
    <div role="presentation" aria-hidden="true" className="relative">
      {drawing}
      <Periods major={major} width={widthOf(scale)} beside={beside} />
    </div>
  );
});
