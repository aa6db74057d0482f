import type { ActivityLook } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useQuery } from "@tanstack/react-query";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { countWords, dateWords, driftTone, driftWords, money } from "../shared/words/words.ts";
import { activityQuery } from "./queries.ts";

interface Line {
  readonly key: string;
  readonly first: string;
  readonly second: string;
  readonly minutes: number | null;
  readonly amountMinor: number;
}

const SHOWN = 200;

function Lines({
  title,
  lines,
  digits,
  none,
}: {
  title: string;
  lines: readonly Line[];
  digits: number;
  none: string;
}) {
  const sum = lines.reduce((total, { amountMinor }) => total + amountMinor, 0);
  return (
    <section className="mt-4">
      <h3 className="text-sm">
        {title}{" "}
        <span className="muted font-sans">
          · {money(sum, digits)} in {countWords(lines.length, "line", "lines")}
        </span>
      </h3>
      {lines.length === 0 ? (
        <p className="muted text-sm">{none}</p>
      ) : (
        <div className="max-h-52 overflow-auto" tabIndex={0} role="region" aria-label={title}>
          <table className="ledger" aria-label={title}>
            <tbody>
              {lines.slice(0, SHOWN).map(({ key, first, second, minutes, amountMinor }) => (
                <tr key={key}>
                  <td>{first}</td>
                  <td>{second}</td>
                  <td className="num">{minutes === null ? "" : formatHours(minutes)}</td>
                  <td className="num">{money(amountMinor, digits)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {lines.length > SHOWN && (
            <p className="muted text-sm">and {lines.length - SHOWN} more; export the project to see all</p>
          )}
        </div>
      )}
    </section>
  );
}

const timeLines = ({ time, kind }: ActivityLook): Line[] =>
  time.map(({ activity, person, date, minutes, amountMinor, note }, i) => ({
    key: String(i),
    first: `${dateWords(date)} · ${person}`,
    second: kind === "summary" ? activity : note,
    minutes,
    amountMinor,
  }));

function Behind({ look }: { look: ActivityLook }) {
  const { dates, minorDigits: digits } = look;
  return (
    <>
      {look.path !== "" && <p className="muted text-sm">{look.path}</p>}
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 text-sm">
        {dates !== null && (
          <>
            <dt className="muted">Now</dt>
            <dd>
              {dateWords(dates.start)} to {dateWords(dates.finish)}
              {dates.drift !== null && (
                <>
                  , <Toned tone={driftTone(dates.drift)}>{driftWords(dates.drift)}</Toned>
                </>
              )}
            </dd>
          </>
        )}
        {dates?.baselineStart != null && (
          <>
            <dt className="muted">Approved</dt>
            <dd>
              {dateWords(dates.baselineStart)} to {dateWords(dates.baselineFinish)}
            </dd>
          </>
        )}
        <dt className="muted">Earns by</dt>
        <dd>
          {look.credit}
          {look.percent !== null && `, ${look.percent}% reported`}
        </dd>
        {look.before.length > 0 && (
          <>
            <dt className="muted">Predecessors</dt>
            <dd>{look.before.join("; ")}</dd>
          </>
        )}
        {look.after.length > 0 && (
          <>
            <dt className="muted">Before</dt>
            <dd>{look.after.join("; ")}</dd>
          </>
        )}
      </dl>
      <Lines title="Time posted" digits={digits} none="No time has been accepted here." lines={timeLines(look)} />
      <Lines
        title="Other costs"
        digits={digits}
        none="No costs have been entered here."
        lines={look.costs.map(({ activity, date, what, amountMinor }, i) => ({
          key: String(i),
          first: `${dateWords(date)} · ${what}`,
          second: look.kind === "summary" ? activity : "",
          minutes: null,
          amountMinor,
        }))}
      />
      <Lines
        title="Planned cost, as the plan has it today"
        digits={digits}
        none="Nobody and nothing is planned to cost money here."
        lines={look.budget.map(({ activity, what, minutes, amountMinor }, i) => ({
          key: String(i),
          first: what,
          second: look.kind === "summary" ? activity : "",
          minutes,
          amountMinor,
        }))}
      />
    </>
  );
}

/** The rows behind one activity's or branch's figures. */
export function BehindFigure({
  project,
  activity,
  onClose,
}: {
  project: string;
  activity: string;
  onClose: () => void;
}) {
  const query = useQuery(activityQuery(project, activity));
  return (
    <Dialog title={query.data?.name ?? "Activity"} onClose={onClose}>
      <Loaded query={query}>{(look) => <Behind look={look} />}</Loaded>
    </Dialog>
  );
}
