import { useMemo } from "react";
import type { SheetLink, SheetRow } from "../engine/sheet.ts";
import { xOf, type Scale } from "./scale.ts";

interface Props {
  readonly links: readonly SheetLink[];
  readonly rows: readonly SheetRow[];
  readonly scale: Scale;
  readonly rowHeight: number;
  readonly left: number;
  readonly width: number;
  /** The first and last row in sight; lines that pass by are drawn too. */
  readonly sight: readonly [number, number];
  /** Of a link being drawn. */
  readonly drawing: {
    readonly from: { readonly id: string; readonly end: "start" | "finish" };
    readonly to: { readonly x: number; readonly y: number };
  } | null;
}

const STUB = 7;

/** From end to end with two bends: out, along, in. */
function pathOf(x1: number, y1: number, x2: number, y2: number, leavesFinish: boolean, entersStart: boolean): string {
  const out = x1 + (leavesFinish ? STUB : -STUB);
  const into = x2 + (entersStart ? -STUB : STUB);
  const straight = leavesFinish && entersStart ? into >= out : !leavesFinish && !entersStart ? into <= out : false;
  const middle = straight ? `H${out} V${y2}` : `H${out} V${(y1 + y2) / 2} H${into} V${y2}`;
  return `M${x1} ${y1} ${middle} H${x2} M${x2 + (entersStart ? -4 : 4)} ${y2 - 3} L${x2} ${y2} L${x2 + (entersStart ? -4 : 4)} ${y2 + 3}`;
}

/** Links between lanes, as thin lines that begin and end where the link does. */
export function LinkLines({ links, rows, scale, rowHeight, left, width, sight, drawing }: Props) {
  const place = useMemo(() => new Map(rows.map(({ id }, i) => [id, i])), [rows]);
  // Only as high as what is in sight: a picture of ten thousand rows would be drawn anew for each step of scrolling.
  const top = sight[0] * rowHeight;
  const at = (i: number): number => i * rowHeight + 11.5 - top;
  const paths = links.flatMap(({ key, from, to, type }) => {
    const [a, b] = [place.get(from), place.get(to)];
    if (a === undefined || b === undefined || Math.max(a, b) < sight[0] || Math.min(a, b) > sight[1]) return [];
    const [one, other] = [rows[a]!.dates, rows[b]!.dates];
    if (one === null || other === null) return [];
    const leavesFinish = type === "FS" || type === "FF";
    const entersStart = type === "FS" || type === "SS";
    return [
      <path
        key={key}
        d={pathOf(
          xOf(scale, leavesFinish ? one.finish : one.start),
          at(a),
          xOf(scale, entersStart ? other.start : other.finish),
          at(b),
          leavesFinish,
          entersStart,
        )}
      />,
    ];
  });
  const begun = drawing === null ? undefined : place.get(drawing.from.id);
  const start = begun === undefined ? null : rows[begun]!.dates;
  if (paths.length === 0 && start === null) return null;
  return (
    <svg
      aria-hidden="true"
      className="pointer-events-none absolute"
      style={{ left, top, zIndex: 1 }}
      width={width}
      height={(sight[1] - sight[0] + 1) * rowHeight}
      fill="none"
      stroke="var(--brass)"
      strokeWidth="1.2"
    >
      {paths}
      {start !== null && (
        <path
          d={`M${xOf(scale, drawing!.from.end === "start" ? start.start : start.finish)} ${at(begun!)} L${drawing!.to.x} ${drawing!.to.y - top}`}
          strokeDasharray="4 3"
          strokeWidth="1.6"
        />
      )}
    </svg>
  );
}
