import { memo } from "react";
import type { LaneShapes } from "./laneShapes.ts";
import { MOORING } from "./mooring.ts";

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
  /** Takes its band's colour from a value, which is said too. */
  readonly coloured?: { readonly value: string; readonly colour: string } | null;
  /** Drawn back, because others are lit. */
  readonly dim?: boolean;
  /** Where it would lie if what is dragged were let go, in pixels. */
  readonly ghost?: readonly [number, number] | null;
}

const pennant = (x: number, size: number): string => `M${x} ${FOOT} V3 H${x + size} l-3 3 l3 3 H${x}`;
const barbs = (x: number, height: number): string =>
  `M${x} 0 V${height} M${x} ${height * 0.22} l-4.5 -3.4 M${x} ${height * 0.62} l-4.5 -3.4`;

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

/** The current window, its done part denser. */
function Band({
  band: [from, to],
  doneTo,
  tall,
  colour,
}: {
  band: readonly [number, number];
  doneTo: number;
  tall: number;
  colour: string | null;
}) {
  return (
    <>
      <rect
        x={from}
        y={BAND_TOP}
        width={to - from}
        height={tall}
        fill={colour ?? "var(--band)"}
        fillOpacity={colour === null ? 1 : 0.55}
      />
      {doneTo > from && (
        <rect x={from} y={BAND_TOP} width={doneTo - from} height={tall} fill={colour ?? "var(--band-done)"} />
      )}
    </>
  );
}

/** Level of effort, which drives nothing: a cord between two stops, taut as far as it has come. */
function Stretch({
  band: [from, to],
  doneTo,
  colour,
}: {
  band: readonly [number, number];
  doneTo: number;
  colour: string | null;
}) {
  const middle = BAND_TOP + BAND_HEIGHT / 2;
  const ink = colour ?? "var(--band-done)";
  return (
    <g stroke={ink} fill="none">
      <path
        d={`M${from} ${BAND_TOP} V${BAND_TOP + BAND_HEIGHT} M${to} ${BAND_TOP} V${BAND_TOP + BAND_HEIGHT}`}
        strokeWidth="1.5"
      />
      <line x1={from} x2={to} y1={middle} y2={middle} strokeWidth="1.5" strokeDasharray="1.5 3" />
      {doneTo > from && <line x1={from} x2={doneTo} y1={middle} y2={middle} strokeWidth="2.5" />}
    </g>
  );
}

/** Words beside a band, legible over whatever lies behind them. */
function Words({
  x,
  y,
  end = false,
  fill,
  children,
}: {
  x: number;
  y: number;
  end?: boolean;
  fill: string;
  children: string;
}) {
  return (
    <text
      x={x}
      y={y}
      textAnchor={end ? "end" : "start"}
      fontSize="11"
      fill={fill}
      stroke="var(--ground)"
      strokeWidth="3"
      paintOrder="stroke"
    >
      {children}
    </text>
  );
}

/** Below what is critical: a line under its band, or at the foot of its staff. */
function Keel({ band, pennants }: Pick<LaneShapes, "band" | "pennants">) {
  const [from, to, y] =
    pennants !== null ? [pennants.now - 5, pennants.now + 10, FOOT + 1] : [...(band ?? [0, 0]), KEEL];
  return <line x1={from} x2={to} y1={y} y2={y} stroke="var(--ink)" strokeWidth="2" />;
}

/** One activity's lane of the time chart. */
export const Lane = memo(function Lane({ shapes, summary, height, coloured = null, dim = false, ghost = null }: Props) {
  const { bracket, band, doneTo, spans, moored, wedge, tail, keel, pennants, deadline, label } = shapes;
  return (
    <g opacity={dim ? 0.28 : 1}>
      {tail !== null && <rect x={tail[0]} y={BAND_TOP + 2} width={tail[1] - tail[0]} height={3} fill="url(#fading)" />}
      {bracket !== null && (
        <path
          d={`M${bracket[0]} ${BAND_TOP - 1.5} V${BRACKET} H${bracket[1]} V${BAND_TOP - 1.5}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="1"
        />
      )}
      {wedge !== null && <Wedge {...wedge} down={pennants === null ? BAND_TOP : FOOT - 6} />}
      {band !== null && spans && <Stretch band={band} doneTo={doneTo ?? band[0]} colour={coloured?.colour ?? null} />}
      {band !== null && !spans && (
        <Band
          band={band}
          doneTo={doneTo ?? band[0]}
          tall={summary ? SUMMARY_HEIGHT : BAND_HEIGHT}
          colour={coloured?.colour ?? null}
        />
      )}
      {coloured !== null && band !== null && (
        <Words x={band[0] - 10} y={height / 2 + 4} end fill="var(--muted)">
          {coloured.value}
        </Words>
      )}
      {keel && <Keel band={band} pennants={pennants} />}
      {pennants !== null && <Milestone {...pennants} />}
      {moored !== null && (
        <path d={MOORING} transform={`translate(${moored} 5)`} fill="none" stroke="var(--muted)" strokeWidth="1.2" />
      )}
      {deadline !== null && <path d={barbs(deadline, height)} fill="none" stroke="var(--adverse)" strokeWidth="1.5" />}
      {label !== null && (
        <Words x={label.x} y={height / 2 + 4} fill={label.tone === "adverse" ? "var(--adverse)" : "var(--favourable)"}>
          {label.words}
        </Words>
      )}
      {ghost !== null && (
        <rect
          x={ghost[0]}
          y={BAND_TOP - 2.5}
          width={Math.max(3, ghost[1] - ghost[0])}
          height={BAND_HEIGHT + 5}
          fill="none"
          stroke="var(--brass)"
          strokeWidth="1.5"
          strokeDasharray="4 2"
        />
      )}
    </g>
  );
});
