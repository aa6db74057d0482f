import { closeOf, parseDate } from "@chronometra/core";
import { ticksOf, xOf, type Scale } from "./scale.ts";

interface Props {
  readonly scale: Scale;
  readonly dataDate: string | null;
  /** Where the lanes begin, right of the table. */
  readonly left: number;
  readonly height: number;
}

/** What stands behind all lanes: lines of the calendar, and over them the data date. */
export function ChartGround({ scale, dataDate, left, height }: Props) {
  const { major, minor } = ticksOf(scale);
  const finer = scale.pixelsPerDay >= 4 ? minor : [...major, ...minor];
  return (
    <div aria-hidden="true" className="pointer-events-none absolute top-0 left-0" style={{ height }}>
      {finer.map(({ x }, i) => x >= 0 && <div key={i} className="absolute top-0 w-px bg-base-300 opacity-55" style={{ left: left + x, height }} />)}
      {dataDate !== null && <div className="absolute top-0 w-[1.5px] bg-accent" style={{ left: left + xOf(scale, closeOf(parseDate(dataDate)!)), height, zIndex: 1 }} />}
    </div>
  );
}
