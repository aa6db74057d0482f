import type { BegunEffect, OutlineRow } from "@chronometra/contract";
import { formatDuration, parseDate } from "@chronometra/core";
import { useState } from "react";
import { dateWords } from "../../shared/words/words.ts";

const WIDTH = 320;
const HEIGHT = 18;
const MOST_ROWS = 200;

/** Where a day lies in the drawing. */
type Place = (date: string, end: boolean) => number;

function placeOf({ start, finish }: BegunEffect): Place {
  const first = parseDate(start)!;
  const days = Math.max(1, parseDate(finish ?? start)! - first + 1);
  return (date, end) => (Math.max(0, parseDate(date)! - first + (end ? 1 : 0)) / days) * WIDTH;
}

/** When a row lies, drawn as in the plan: work as a band, a milestone as a pennant, a branch as the span of what is in it. */
function Lane({ row, place }: { readonly row: OutlineRow; readonly place: Place }) {
  if (row.start === null || row.finish === null) return null;
  const [left, right] = [place(row.start, false), place(row.finish, true)];
  return (
    <svg width={WIDTH + 10} height={HEIGHT} aria-hidden="true" className={row.parked ? "opacity-40" : ""}>
      {row.kind === "milestone" ? (
        <path
          d={`M${right} 2 V16 M${right} 2 L${right + 8} 5 L${right} 8`}
          fill="currentColor"
          stroke="currentColor"
          strokeWidth="1.5"
        />
      ) : row.kind === "summary" ? (
        <path d={`M${left} 13 V9 H${right} V13`} fill="none" stroke="currentColor" strokeOpacity="0.6" />
      ) : (
        <>
          <rect x={left} y={5} width={Math.max(1.5, right - left)} height={7} fill="currentColor" opacity="0.55" />
          {row.critical && <line x1={left} x2={right} y1={14.5} y2={14.5} stroke="currentColor" strokeWidth="1.5" />}
        </>
      )}
    </svg>
  );
}

/** The rows of a plan before it is begun: what, how long, when, by whom. */
export function Outline({ effect }: { readonly effect: BegunEffect }) {
  const [all, setAll] = useState(false);
  const place = placeOf(effect);
  const rows = all ? effect.rows : effect.rows.slice(0, MOST_ROWS);
  return (
    <>
      <table className="ledger" aria-label="The plan">
        <thead>
          <tr>
            <th>Activity</th>
            <th className="num">Duration</th>
            <th>Start</th>
            <th>Finish</th>
            <th>Who</th>
            <th style={{ width: WIDTH + 24 }}>
              {dateWords(effect.start)}
              {effect.finish !== null && <span className="float-right">{dateWords(effect.finish)}</span>}
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id} className={row.parked ? "muted" : ""}>
              <td className="max-w-80 truncate" title={row.name} style={{ paddingLeft: `${0.4 + row.depth}rem` }}>
                <span className={row.kind === "summary" ? "font-semibold" : ""}>{row.name}</span>
                {row.parked && <span className="muted"> parked</span>}
              </td>
              <td className="num whitespace-nowrap">
                {row.durationMinutes === null || row.kind === "milestone"
                  ? ""
                  : formatDuration(row.durationMinutes, row.dayMinutes)}
              </td>
              <td className="whitespace-nowrap">{dateWords(row.start)}</td>
              <td className="whitespace-nowrap">{dateWords(row.finish)}</td>
              <td className="max-w-48 truncate" title={row.who.join(", ")}>
                {row.who.join(", ")}
              </td>
              <td>
                <Lane row={row} place={place} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {rows.length < effect.rows.length && (
        <button type="button" className="btn btn-sm mt-1" onClick={() => setAll(true)}>
          Show all {effect.rows.length} rows
        </button>
      )}
    </>
  );
}
