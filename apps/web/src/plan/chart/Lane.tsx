import { memo } from "react";
import type { LaneShapes } from "./laneShapes.ts";

/** Heights within a lane: the approved window above, the current one below, the keel under it. */
const BRACKET = 3.5;
const BAND_TOP = 8;
const BAND_HEIGHT = 7;
const SUMMARY_HEIGHT = 4;
const KEEL = 17.5;
const FOOT = 19;

interface Props {
  readonly shapes: LaneShapes;
  readonly summary: boolean;
  readonly height: number;
}

const pennant = (x: number, size: number): string => `M${x} ${FOOT} V3 H${x + size} l-3 3 l3 3 H${x}`;
const barbs = (x: number, height: number): string => `M${x} 0 V${height} M${x} ${height * 0.22} l-4.5 -3.4 M${x} ${height * 0.62} l-4.5 -3.4`;

function Milestone({ approved, now }: NonNullable<LaneShapes["pennants"]>) {
  return (
    <>
      {approved !== null && <path d={pennant(approved, 9)} fill="var(--ground)" stroke="var(--ink)" strokeWidth="1" />}
      <path d={pennant(now, 10)} fill="var(--ink)" stroke="var(--ink)" strokeWidth="1" />
    </>
  );
}

function Wedge({ from, to, late, down }: NonNullable<LaneShapes["wedge"]> & { down: number }) {
  const colour = late ? "var(--adverse)" : "var(--favourable)";
  const points = `${from},${BRACKET} ${to},${down} ${from},${down}`;
  // Late is filled and early only outlined, so that they differ without colour.
  return <polygon points={points} fill={colour} fillOpacity={late ? 0.85 : 0.18} stroke={colour} strokeWidth="1" />;
}

/** One activity's lane of the time chart. */
export const Lane = memo(function Lane({ shapes, summary, height }: Props) {
  const { bracket, band, doneTo, wedge, tail, keel, pennants, deadline, label } = shapes;
  const tall = summary ? SUMMARY_HEIGHT : BAND_HEIGHT;
  return (
    <>
      {tail !== null && <rect x={tail[0]} y={BAND_TOP + 2} width={tail[1] - tail[0]} height={3} fill="url(#fading)" />}
      {bracket !== null && <path d={`M${bracket[0]} ${BAND_TOP - 1.5} V${BRACKET} H${bracket[1]} V${BAND_TOP - 1.5}`} fill="none" stroke="var(--ink)" strokeWidth="1" />}
      {wedge !== null && <Wedge {...wedge} down={pennants === null ? BAND_TOP : FOOT - 6} />}
      {band !== null && <rect x={band[0]} y={BAND_TOP} width={band[1] - band[0]} height={tall} fill="var(--band)" />}
      {band !== null && doneTo !== null && doneTo > band[0] && <rect x={band[0]} y={BAND_TOP} width={doneTo - band[0]} height={tall} fill="var(--band-done)" />}
      {keel && band !== null && <line x1={band[0]} x2={band[1]} y1={KEEL} y2={KEEL} stroke="var(--ink)" strokeWidth="2" />}
      {pennants !== null && <Milestone {...pennants} />}
      {deadline !== null && <path d={barbs(deadline, height)} fill="none" stroke="var(--adverse)" strokeWidth="1.5" />}
      {label !== null && <text x={label.x} y={height / 2 + 4} fontSize="11" fill={label.tone === "adverse" ? "var(--adverse)" : "var(--favourable)"} stroke="var(--ground)" strokeWidth="3" paintOrder="stroke">{label.words}</text>}
    </>
  );
});
