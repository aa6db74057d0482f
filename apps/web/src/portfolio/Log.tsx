import type { Portfolio } from "@chronometra/contract";
import { useState } from "react";
import { Link } from "react-router";
import { Toned } from "../shared/Toned.tsx";
import { logLines, type LogLine } from "./logLines.ts";

const SHOWN = 4;

function Line({ line }: { line: LogLine }) {
  const [all, setAll] = useState(false);
  const rows = all ? line.rows : line.rows.slice(0, SHOWN);
  return (
    <div className="grid grid-cols-[5.5rem_1fr] gap-x-3 border-b rule py-1" role="group" aria-label={line.about}>
      <h2 className="text-[15px]">{line.about}</h2>
      <div className="leading-5">
        <p><Toned tone={line.tone} marked>{line.words}</Toned></p>
        {rows.length > 0 && (
          <p className="text-sm">
            {rows.map(({ key, name, words, to }, i) => <span key={key}>{i > 0 && <span className="muted"> · </span>}<Link className="underline decoration-base-300 underline-offset-2 hover:decoration-current" to={to}>{name}</Link> <span className="muted">{words}</span></span>)}
            {line.rows.length > SHOWN && <> <button type="button" className="underline cursor-pointer" aria-expanded={all} onClick={() => setAll(!all)}>{all ? "fewer" : `and ${line.rows.length - SHOWN} more`}</button></>}
          </p>
        )}
      </div>
    </div>
  );
}

/** What moved, what breaks, what costs, what to doubt, who is missing: a sentence each, with the rows behind it. */
export function Log({ portfolio, dataDate }: { portfolio: Portfolio; dataDate: string | null }) {
  return <section aria-label="The log">{logLines(portfolio.projects, dataDate, portfolio.qualityLimits, portfolio).map((line) => <Line key={line.about} line={line} />)}</section>;
}
