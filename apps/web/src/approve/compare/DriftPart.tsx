import type { ComparisonView, DriftLedgerView } from "@chronometra/contract";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { countWords, dateWords, driftTone, movedWords } from "../../shared/words/words.ts";
import { aloneWords, bridgeOf, causeWords, GROUP_WORDS } from "./driftWords.ts";
import { driftQuery, driftShareQuery } from "../queries.ts";

const WIDTH = 360;
const NARROW = 110;
const HEIGHT = 20;
const PAD = 6;

/** One cause as a step of the bridge: from where the date stood to where it came. */
function Step({
  from,
  to,
  least,
  most,
  width,
}: {
  from: number;
  to: number;
  least: number;
  most: number;
  width: number;
}) {
  const x = (days: number): number => PAD + ((days - least) / Math.max(1e-9, most - least)) * (width - 2 * PAD);
  const late = to > from;
  return (
    <svg width={width} height={HEIGHT} aria-hidden="true" className="block">
      <line x1={x(0)} x2={x(0)} y1="0" y2={HEIGHT} stroke="currentColor" strokeOpacity="0.35" strokeDasharray="2 2" />
      <rect
        x={Math.min(x(from), x(to))}
        y="5"
        width={Math.max(1, Math.abs(x(to) - x(from)))}
        height={HEIGHT - 10}
        fill={late ? "var(--adverse)" : "none"}
        stroke={late ? "var(--adverse)" : "var(--favourable)"}
        strokeWidth="1.5"
      />
      <line x1={x(to)} x2={x(to)} y1="2" y2={HEIGHT} stroke="currentColor" strokeWidth="1.2" />
    </svg>
  );
}

const MOST_HIDDEN = 40;

function CauseName({ cause, project }: { cause: DriftLedgerView["causes"][number]; project: string }) {
  const words = causeWords(cause);
  return cause.kind === "activity" ? (
    <Link className="link-quiet" to={`/projects/${project}/plan?at=${encodeURIComponent(cause.id)}`}>
      {words}
    </Link>
  ) : (
    words
  );
}

/** What would have moved the date by itself, and did not beside the rest; folded at first. */
function Hidden({ causes, project }: { causes: DriftLedgerView["causes"]; project: string }) {
  const [all, setAll] = useState(false);
  if (causes.length === 0) return null;
  const most = causes.toSorted((a, b) => Math.abs(b.alone ?? 0) - Math.abs(a.alone ?? 0)).slice(0, MOST_HIDDEN);
  return (
    <div className="pt-1 text-sm">
      <button type="button" className="underline cursor-pointer" aria-expanded={all} onClick={() => setAll(!all)}>
        {all
          ? "Fold"
          : countWords(causes.length, "more would have moved it by itself", "more would have moved it by themselves")}
      </button>
      {all && (
        <ul>
          {most.map((cause, i) => (
            <li key={`${i} ${cause.id}`} className="border-b rule py-0.5">
              <CauseName cause={cause} project={project} />;{" "}
              <Toned tone={driftTone(cause.alone)}>{aloneWords(cause)}</Toned>
            </li>
          ))}
          {causes.length > MOST_HIDDEN && (
            <li className="muted">and {causes.length - MOST_HIDDEN} more that would have moved it less</li>
          )}
        </ul>
      )}
    </div>
  );
}

/** Why a date moved, cause by cause, as a bridge from where it was to where it is; each with the changes behind it. */
export function Causes({
  ledger,
  project,
  from: was,
  to: is,
  narrow = false,
}: {
  ledger: DriftLedgerView;
  project: string;
  from: string;
  to: string;
  narrow?: boolean;
}) {
  const { bars, least, most } = bridgeOf(ledger.causes.filter(({ days }) => days !== 0));
  if (ledger.from === null || ledger.to === null)
    return <p className="muted text-sm">In one of the two states it has no date.</p>;
  const moved = movedWords(ledger.days);
  return (
    <>
      <p className="text-sm">
        {dateWords(ledger.from)} → {dateWords(ledger.to)}, <Toned tone={driftTone(ledger.days)}>{moved}</Toned>
        {bars.length === 0 && "; nothing that changed moved it"}
      </p>
      {bars.length > 0 && (
        <table className="ledger panel-table" aria-label="Causes of the drift">
          <thead>
            <tr>
              <th>Cause</th>
              {!narrow && <th>Kind</th>}
              <th className="num">Days</th>
              <th>From there to here</th>
              <th>
                <span className="sr-only">Changes</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {bars.map(({ cause, from, to }, i) => (
              <tr key={`${i} ${cause.id}`}>
                <td>
                  <CauseName cause={cause} project={project} />
                  {aloneWords(cause) !== null && <span className="muted text-sm"> ({aloneWords(cause)})</span>}
                </td>
                {!narrow && <td className="muted text-sm">{GROUP_WORDS[cause.group]}</td>}
                <td className="num">
                  <Toned tone={driftTone(cause.days)}>{movedWords(cause.days)}</Toned>
                </td>
                <td>
                  <Step from={from} to={to} least={least} most={most} width={narrow ? NARROW : WIDTH} />
                </td>
                <td>
                  <Link
                    className="underline"
                    aria-label={`Changes behind ${causeWords(cause)}`}
                    to={`/projects/${project}/history?from=${was}&to=${is}&about=${encodeURIComponent(cause.kind === "project" ? "" : cause.id)}`}
                  >
                    changes
                  </Link>
                </td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="total">
              <td>Together</td>
              {!narrow && <td />}
              <td className="num">{movedWords(ledger.days)}</td>
              <td />
              <td />
            </tr>
          </tfoot>
        </table>
      )}
      <Hidden causes={ledger.causes.filter(({ days }) => days === 0)} project={project} />
    </>
  );
}

/** That a ledger is being worked out, and how far that is. */
export function WorkingOut({ of }: { of: Parameters<typeof driftShareQuery> }) {
  const { data: share } = useQuery(driftShareQuery(...of));
  return (
    <p className="muted flex items-center gap-2 text-sm" role="status">
      Calculating why it moved …{" "}
      <progress className="h-2 w-40 accent-(--color-accent)" max={1} value={share} aria-label="Calculated so far" />
    </p>
  );
}

/** Why a date moved between the two states compared: the project's finish, or a milestone's. */
export function DriftPart({ view, project }: { view: ComparisonView; project: string }) {
  const [params, put] = useAddress();
  const target = params.get("why");
  const query = useQuery({
    ...driftQuery(project, view.from.name, view.to.name, target ?? "finish"),
    enabled: target !== null,
    placeholderData: keepPreviousData,
  });
  const choose = (why: string | null): void => put({ why });
  const milestones = view.rows.filter(({ milestone, finishDays }) => milestone && (finishDays ?? 0) !== 0);
  return (
    <section aria-label="Why it moved" className="mb-4">
      <div className="flex flex-wrap items-center gap-2 text-sm">
        <h3 className="text-base">Why it moved</h3>
        <select
          className="select select-sm w-64"
          aria-label="Whose movement is told"
          value={target ?? ""}
          onChange={(event) => choose(event.target.value === "" ? null : event.target.value)}
        >
          <option value="">select a date</option>
          <option value="finish">the project’s finish</option>
          {milestones.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      </div>
      {target !== null && query.error !== null && <Failure error={query.error} />}
      {target !== null && query.data === undefined && query.error === null && (
        <WorkingOut of={[project, view.from.name, view.to.name, target]} />
      )}
      {target !== null && query.data !== undefined && (
        <div aria-busy={query.isPlaceholderData}>
          <Causes ledger={query.data} project={project} from={view.from.name} to={view.to.name} />
        </div>
      )}
    </section>
  );
}
