import type { RoadLine } from "@chronometra/contract";
import { closeOf, parseDate } from "@chronometra/core";
import { memo } from "react";
import { Link } from "react-router";
import { Lane } from "../../plan/chart/Lane.tsx";
import { widthOf, xOf, type Scale } from "../../plan/chart/scale.ts";
import { extentOfRoad, laneOf, marksOf, type Mark } from "./roadShapes.ts";

/** Pixels from one project to the next; the lane lies at its foot, and what stands on it rises above. */
export const ROAD_HEIGHT = 38;
const LANE_TOP = 13;
const LANE_HEIGHT = 21;
const FOOT = LANE_TOP + 9;

const pennant = (x: number): string => `M${x} ${FOOT} V2 H${x + 8} l-2.5 2.5 l2.5 2.5 H${x}`;
const barbs = (x: number): string => `M${x} 1 V${ROAD_HEIGHT - 3} M${x} 9 l-4.5 -3.4 M${x} 24 l-4.5 -3.4`;
/** The leaves of a gate from above, between their posts: swung aside, or shut. */
const leaves = (x: number, passed: boolean): string =>
  passed ? `M${x - 4} 25 h9 M${x - 4} 35 h9` : `M${x - 4} 25 L${x + 1} 30 L${x - 4} 35`;

/** What one mark looks like; approved hollow, now filled. */
function Drawn({ mark: { kind, x, approved, done, adverse } }: { readonly mark: Mark }) {
  if (kind === "deadline")
    return (
      <path
        d={barbs(x)}
        fill="none"
        stroke={adverse ? "var(--adverse)" : "var(--ink)"}
        strokeWidth={adverse ? 2 : 1.2}
      />
    );
  if (kind === "gate")
    return (
      <g stroke="var(--brass)" fill="none">
        <path d={`M${x - 5} 23.5 h3 M${x - 5} 36.5 h3`} strokeWidth="3" />
        <path d={leaves(x, done)} strokeWidth="2" />
      </g>
    );
  return (
    <>
      {approved !== null && Math.abs(approved - x) > 1 && (
        <path d={pennant(approved)} fill="var(--ground)" stroke="var(--muted)" strokeWidth="1" />
      )}
      <path
        d={pennant(x)}
        fill={adverse ? "var(--adverse)" : "var(--ink)"}
        stroke={adverse ? "var(--adverse)" : "var(--ink)"}
        fillOpacity={done ? 0.45 : 1}
        strokeOpacity={done ? 0.45 : 1}
      />
    </>
  );
}

/** A mark with what is known of it, opening where that is told in full. */
const MarkLink = ({ project, mark }: { readonly project: string; readonly mark: Mark }) => (
  <Link to={`/projects/${project}/${mark.to}`} tabIndex={-1} aria-label={mark.words}>
    <title>{mark.words}</title>
    <rect x={mark.x - 6} y={0} width={16} height={ROAD_HEIGHT} fill="transparent" />
    <Drawn mark={mark} />
  </Link>
);

interface LaneProps {
  readonly line: RoadLine;
  readonly scale: Scale;
}

/** A project in time. */
export const RoadLane = memo(function RoadLane({ line, scale }: LaneProps) {
  return (
    <svg width={widthOf(scale)} height={ROAD_HEIGHT} className="block" fontSize="11">
      <g transform={`translate(0 ${LANE_TOP})`}>
        <Lane shapes={laneOf(line, scale)} summary={false} height={LANE_HEIGHT} />
      </g>
      {marksOf(line, scale).map((mark) => (
        <MarkLink key={mark.id} project={line.id} mark={mark} />
      ))}
    </svg>
  );
});

/** A group in time: from where the first of its projects begins to where the last is finished. */
export const GroupLane = memo(function GroupLane({ lines, scale }: { lines: readonly RoadLine[]; scale: Scale }) {
  const extent = extentOfRoad(
    lines.map((line) => ({ ...line, milestones: [], deadlines: [], gates: [] })),
    null,
  );
  if (extent === null) return null;
  const from = xOf(scale, parseDate(extent.from)! * 1440);
  const to = xOf(scale, closeOf(parseDate(extent.to)!));
  return (
    <svg width={widthOf(scale)} height={24} className="block" aria-hidden="true">
      <path d={`M${from} 16 V12 H${to} V16`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
    </svg>
  );
});
