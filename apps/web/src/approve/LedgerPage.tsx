import type { Approval, Ledger } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { useProject } from "../project/useProject.ts";
import { addressOf, call } from "../shared/session/api.ts";
import { DateField } from "../shared/fields/DateField.tsx";
import { todayHere } from "../shared/words/today.ts";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { countWords, dateWords, momentWords, money } from "../shared/words/words.ts";
import { AgreedWords, Decide } from "./Decide.tsx";
import { PlanState } from "./PlanState.tsx";
import { ledgerQuery, whatIfsQuery } from "./queries.ts";
import { WhatIfs } from "./Requests.tsx";
import { ReservesPart } from "./ReservesPart.tsx";

/** Of a project that runs already: on which day its plan was approved before it came here. */
function AgreedBefore({ on, onAgreed }: { on: string | null; onAgreed: (on: string | null) => void }) {
  return (
    <div className="flex min-h-8 flex-wrap items-center gap-3 text-sm">
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={on !== null}
          onChange={({ target }) => onAgreed(target.checked ? "" : null)}
        />
        It runs already, and this plan was approved before
      </label>
      {on !== null && (
        <>
          <DateField label="Approved on" value={on} max={todayHere()} onDate={onAgreed} small />
          <span className="muted">The baseline bears this day, once an approver has confirmed it here.</span>
        </>
      )}
    </div>
  );
}

function Ask({ project, first }: { project: string; first: boolean }) {
  const client = useQueryClient();
  const [word, setWord] = useState("");
  const [agreedOn, setAgreedOn] = useState<string | null>(null);
  const ask = useMutation({
    mutationFn: () =>
      call("POST /api/projects/:project/approvals", {
        params: { project },
        body: { word, ...(agreedOn === null || agreedOn === "" ? {} : { agreedOn }) },
      }),
    onSuccess: () => {
      toast("Approval is asked for; an approver sees it under Approvals.");
      void client.invalidateQueries();
    },
  });
  return (
    <form
      className="mb-4 flex max-w-2xl flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        ask.mutate();
      }}
    >
      <label className="flex flex-col gap-1">
        <span className="font-semibold">
          {first
            ? "Ask for approval of the plan as it stands"
            : "Ask to re-baseline: approval of the whole plan as it stands"}
        </span>
        {!first && (
          <span className="muted text-sm">
            All that has moved since the last baseline counts as approved then, and drift begins anew. One change alone
            is put forward from a what-if.
          </span>
        )}
        <textarea
          className="textarea w-full"
          rows={2}
          value={word}
          onChange={(event) => setWord(event.target.value)}
          placeholder="What the approver should know"
        />
      </label>
      {first && <AgreedBefore on={agreedOn} onAgreed={setAgreedOn} />}
      <PlanState project={project} />
      {ask.error !== null && <Failure error={ask.error} />}
      <div>
        <button className="btn btn-primary btn-sm" disabled={ask.isPending || agreedOn === ""}>
          Ask for approval
        </button>
      </div>
    </form>
  );
}

/** Recomputes a baseline's digest on the server and says whether it is still what was frozen. */
function Digest({ project, number, digest }: { project: string; number: number; digest: string }) {
  const check = useMutation({
    mutationFn: () =>
      call("GET /api/projects/:project/baselines/:number/digest", { params: { project, number: String(number) } }),
  });
  return (
    <div className="flex items-center gap-2">
      <code className="text-xs" title={digest}>
        {digest.slice(0, 12)}…
      </code>
      <button type="button" className="btn btn-xs" disabled={check.isPending} onClick={() => check.mutate()}>
        Check
      </button>
      <a
        className="text-xs underline"
        download
        href={addressOf("GET /api/projects/:project/baselines/:number/content", { project, number: String(number) })}
        title="The text that the digest is made from: sha256sum of this file gives the digest"
      >
        Text
      </a>
      <span role="status" className="text-sm">
        {check.data !== undefined &&
          (check.data.same ? (
            <span className="favourable">✓ unchanged since it was frozen</span>
          ) : (
            <span className="adverse">✗ differs: now {check.data.recomputed.slice(0, 12)}…</span>
          ))}
        {check.error !== null && <span className="adverse">{check.error.message}</span>}
      </span>
    </div>
  );
}

/** What a baseline approved. */
const howWords = ({ how, request }: Ledger["baselines"][number]): string =>
  how === "first"
    ? "the first plan"
    : how === "request"
      ? `change request ${request} alone`
      : `re-baselined: the whole plan${request === null ? "" : `, with change request ${request}`}`;

function Baselines({ project, ledger }: { project: string; ledger: Ledger }) {
  if (ledger.baselines.length === 0)
    return <p className="muted py-2">No baseline yet. The first is frozen when someone approves the plan.</p>;
  return (
    <table className="ledger" aria-label="Baselines">
      <thead>
        <tr>
          <th className="num">No.</th>
          <th>Approved</th>
          <th>By</th>
          <th>What</th>
          <th>Why</th>
          <th>From</th>
          <th>To</th>
          <th className="num">Activities</th>
          <th className="num">Budget, {ledger.currency}</th>
          <th>Compare</th>
          <th>Digest</th>
        </tr>
      </thead>
      <tbody>
        {ledger.baselines.map((line) => (
          <tr key={line.number}>
            <td className="num figure">{line.number}</td>
            <td className="whitespace-nowrap">{dateWords(line.approvedOn)}</td>
            <td className="whitespace-nowrap">{line.approvedBy}</td>
            <td>{howWords(line)}</td>
            <td>{line.reason}</td>
            <td className="whitespace-nowrap">{dateWords(line.start)}</td>
            <td className="whitespace-nowrap">{dateWords(line.finish)}</td>
            <td className="num">{line.activities}</td>
            <td className="num">{money(line.budgetMinor, ledger.minorDigits)}</td>
            <td className="whitespace-nowrap">
              <Link className="underline" to={`/projects/${project}/compare?from=baseline-${line.number}&to=plan`}>
                with the plan
              </Link>
              {line.number > 1 && (
                <>
                  ,{" "}
                  <Link
                    className="underline"
                    to={`/projects/${project}/compare?from=baseline-${line.number - 1}&to=baseline-${line.number}`}
                  >
                    with {line.number - 1}
                  </Link>
                </>
              )}
            </td>
            <td>
              <Digest project={project} number={line.number} digest={line.digest} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const outcome = (approval: Approval): string => {
  if (approval.state === "asked") return "waits for a decision";
  const verb =
    approval.state === "approved"
      ? `approved as baseline ${approval.baseline}`
      : approval.state === "replaced"
        ? "replaced by a later request"
        : "sent back";
  return `${verb} by ${approval.decidedBy} on ${momentWords(approval.decidedAt!)}: “${approval.reason}”`;
};

/** The ledger of approvals: what was asked, what was decided, and the baselines that came of it. */
export function LedgerPage() {
  const { id } = useProject();
  const query = useQuery(ledgerQuery(id));
  const whatIfs = useQuery(whatIfsQuery(id));
  return (
    <div className="page">
      <Loaded query={query}>
        {(ledger) => {
          const open = ledger.approvals.find(({ state }) => state === "asked");
          return (
            <>
              {ledger.mayAsk && <Ask project={id} first={ledger.baselines.length === 0} />}
              {open !== undefined && ledger.baselines[0] !== undefined && (
                <p className="mb-2">
                  <Link
                    className="underline"
                    to={`/projects/${id}/compare?from=baseline-${ledger.baselines[0].number}&to=${open.changedSince > 0 ? `asked-${open.id}` : "plan"}`}
                  >
                    What is to be approved, compared with baseline {ledger.baselines[0].number}
                  </Link>
                </p>
              )}
              {open?.mayDecide === true && (
                <section className="mb-4">
                  <h2 className="text-base">{open.askedBy} asks for approval</h2>
                  {open.word !== "" && <p>“{open.word}”</p>}
                  <AgreedWords approval={open} />
                  <PlanState project={id} asked={open} />
                  <Decide approval={open} />
                </section>
              )}
              <h2 className="text-base">Baselines</h2>
              <Baselines project={id} ledger={ledger} />
              <h2 className="pt-6 text-base">What-ifs and change requests</h2>
              <Loaded query={whatIfs}>{(list) => <WhatIfs list={list} />}</Loaded>
              <ReservesPart project={id} />
              <h2 className="pt-6 text-base">
                Requests{" "}
                <span className="muted font-sans text-sm">
                  {countWords(ledger.approvals.length, "request", "requests")}
                </span>
              </h2>
              <ul className="text-sm">
                {ledger.approvals.map((approval) => (
                  <li key={approval.id} className="border-b rule py-1.5">
                    <span className="font-semibold">{approval.askedBy}</span> asked on {momentWords(approval.askedAt)}
                    {approval.word !== "" && <>: “{approval.word}”</>}
                    {approval.agreedOn !== null && `, approved before on ${dateWords(approval.agreedOn)}`}{" "}
                    <span className="muted">— {outcome(approval)}</span>
                  </li>
                ))}
                {ledger.approvals.length === 0 && <li className="muted py-2">Nobody has asked for approval yet.</li>}
              </ul>
            </>
          );
        }}
      </Loaded>
    </div>
  );
}
