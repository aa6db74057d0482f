import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { countWords } from "../shared/words/words.ts";
import { acceptedQuery } from "../project/queries.ts";
import { laterAndEarlier, logLines, movedOf, moveWords, type LogLine } from "../project/logLines.ts";

const SHOWN = 4;

function Line({ line, children }: { line: LogLine; children?: ReactNode }) {
  const [all, setAll] = useState(false);
  const rows = all ? line.rows : line.rows.slice(0, SHOWN);
  return (
    <div className="grid grid-cols-[5.5rem_1fr] gap-x-3 border-b rule py-1" role="group" aria-label={line.about}>
      <h2 className="text-[15px]">{line.about}</h2>
      <div className="leading-5">
        <p>
          <Toned tone={line.tone} marked>
            {line.words}
          </Toned>
        </p>
        {rows.length > 0 && (
          <p className="text-sm">
            {rows.map(({ key, name, words, to }, i) => (
              <span key={key}>
                {i > 0 && <span className="muted"> · </span>}
                <Link className="underline decoration-base-300 underline-offset-2 hover:decoration-current" to={to}>
                  {name}
                </Link>{" "}
                <span className="muted">{words}</span>
              </span>
            ))}
            {line.rows.length > SHOWN && (
              <>
                {" "}
                <button
                  type="button"
                  className="underline cursor-pointer"
                  aria-expanded={all}
                  onClick={() => setAll(!all)}
                >
                  {all ? "fewer" : `and ${line.rows.length - SHOWN} more`}
                </button>
              </>
            )}
          </p>
        )}
        {children}
      </div>
    </div>
  );
}

/** What the movement would be with all reports accepted that wait: worked out when it is asked for. */
function WithAllAccepted({ projects }: { projects: readonly ProjectLine[] }) {
  const accepted = useQuery(acceptedQuery);
  const waiting = projects.reduce((sum, line) => sum + line.waiting, 0);
  if (waiting === 0) return null;
  const what = `the ${countWords(waiting, "report that waits", "reports that wait")} accepted`;
  if (accepted.data === undefined) {
    return (
      <p className="text-sm">
        {accepted.isFetching ? (
          <span className="muted" role="status">
            Calculating what it would be with {what} …
          </span>
        ) : (
          <button type="button" className="underline cursor-pointer" onClick={() => void accepted.refetch()}>
            With {what}
          </button>
        )}
        {accepted.error !== null && <span className="adverse"> {accepted.error.message}</span>}
      </p>
    );
  }
  const drifts = new Map(accepted.data.map((each) => [each.project, each]));
  const rows = projects.flatMap((line) => {
    const then = drifts.get(line.id);
    const days = movedOf(
      then === undefined ? line : { ...line, openDrift: null, summary: { ...line.summary, drift: then.drift } },
    );
    return days === null ? [] : [{ line, days }];
  });
  const furthest = [...rows].sort((a, b) => b.days - a.days)[0];
  const asked = accepted.data.reduce((sum, each) => sum + each.asked, 0);
  const faults = accepted.data.filter(({ fault }) => fault !== null);
  return (
    <p className="text-sm" role="status">
      With {what}: {laterAndEarlier(rows.map(({ days }) => days)) ?? "no finish has moved"}
      {furthest !== undefined &&
        furthest.days > 0.05 &&
        `; the furthest, ${furthest.line.name}, ${moveWords(furthest.days)}`}
      .
      {asked > 0 && (
        <span className="undecided">
          {" "}
          {countWords(asked, "100% is", "100%s are")} taken to end {asked === 1 ? "its sender’s" : "their senders’"} own
          work only; it is asked on accepting.
        </span>
      )}
      {faults.length > 0 && (
        <span className="adverse">
          {" "}
          Of {countWords(faults.length, "project", "projects")} they cannot all be accepted.
        </span>
      )}
    </p>
  );
}

/** What moved, what breaks, what costs, what to doubt, who is missing: a sentence each, with the rows behind it. */
export function Log({ portfolio, dataDate }: { portfolio: Portfolio; dataDate: string | null }) {
  return (
    <section aria-label="The log">
      {logLines(portfolio.projects, dataDate, portfolio.qualityLimits, portfolio).map((line) => (
        <Line key={line.about} line={line}>
          {line.about === "Moved" && <WithAllAccepted projects={portfolio.projects} />}
        </Line>
      ))}
    </section>
  );
}
