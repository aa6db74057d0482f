import { memo } from "react";
import { closeOf, parseDate } from "@chronometra/core";
import { dateWords } from "../../shared/words.ts";
import { ticksOf, widthOf, xOf, type Scale } from "./scale.ts";

export const HEAD_HEIGHT = 34;

interface Props {
  readonly scale: Scale;
  readonly dataDate: string | null;
}

/** Years, months, weeks, days or hours above the lanes, and the dial on the data date. */
export const ChartHead = memo(function ChartHead({ scale, dataDate }: Props) {
  const { major, minor } = ticksOf(scale);
  const x = dataDate === null ? null : xOf(scale, closeOf(parseDate(dataDate)!));
  return (
    <svg width={widthOf(scale)} height={HEAD_HEIGHT} aria-hidden="true" className="block" fontSize="11" fill="var(--muted)">
      {major.map((tick, i) => (
        <g key={tick.x}>
          <line x1={tick.x} x2={tick.x} y1="0" y2={HEAD_HEIGHT} stroke="var(--hairline)" />
          {/* The name of a period that begins left of the chart stands at its edge. */}
          <text x={Math.max(tick.x, 0) + 5} y="13" fontWeight="600" visibility={tick.x < 0 && (major[i + 1]?.x ?? Infinity) < 60 ? "hidden" : "visible"}>{tick.label}</text>
        </g>
      ))}
      {minor.map((tick) => (
        <g key={tick.x}>
          <line x1={tick.x} x2={tick.x} y1="19" y2={HEAD_HEIGHT} stroke="var(--hairline)" />
          <text x={tick.x + 3} y="30">{tick.label}</text>
        </g>
      ))}
      {x !== null && (
        <g>
          <title>Data date {dateWords(dataDate)}</title>
          <circle cx={x} cy="25" r="7" fill="var(--ground)" stroke="var(--brass)" strokeWidth="1.6" />
          <path d={`M${x} 25 V20.5 M${x} 25 l3 2`} stroke="var(--brass)" strokeWidth="1.4" fill="none" strokeLinecap="round" />
        </g>
      )}
    </svg>
  );
});
