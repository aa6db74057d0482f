import { closeOf, parseDate } from "@chronometra/core";
import { memo } from "react";
import { HEAD_HEIGHT } from "./ChartHead.tsx";
import { ticksOf, widthOf, xOf, type Scale } from "./scale.ts";

interface Props {
  readonly scale: Scale;
  readonly dataDate: string | null;
  /** Where the lanes begin, right of the table. */
  readonly left: number;
}

/** What stands behind all lanes: lines of the calendar, and over them the data date. It stays as high as the window, whatever the number of rows. */
export const ChartGround = memo(function ChartGround({ scale, dataDate, left }: Props) {
  const { major, minor } = ticksOf(scale);
  const finer = scale.pixelsPerDay >= 4 ? minor : [...major, ...minor];
  const lines = finer.flatMap(({ x }) => (x >= 0 ? [`M${x + 0.5} 0V4000`] : [])).join("");
  const data = dataDate === null ? null : xOf(scale, closeOf(parseDate(dataDate)!));
  return (
    <div aria-hidden="true" className="pointer-events-none sticky h-0" style={{ top: HEAD_HEIGHT }}>
      <svg className="absolute top-0" style={{ left, height: "100vh" }} width={widthOf(scale)}>
        <path d={lines} stroke="var(--hairline)" strokeOpacity="0.55" />
        {data !== null && <path d={`M${data} 0V4000`} stroke="var(--brass)" strokeWidth="1.5" />}
      </svg>
    </div>
  );
});
