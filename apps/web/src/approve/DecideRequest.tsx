import type { RequestAlone, WhatIf, WhatIfView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { EffectView } from "../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { money } from "../shared/words/words.ts";
import { summaryWords } from "./words/comparedWords.ts";
import { OnceFrozen } from "./OnceFrozen.tsx";
import { aloneQuery, comparisonQuery, whatIfQuery } from "./queries.ts";
import { RESERVE_WORDS } from "./words/reserveWords.ts";

/** What differs between two states of a plan, in sentences, and the way to see it by activity. */
function Compared({ project, from, to }: { project: string; from: string; to: string }) {
  const query = useQuery(comparisonQuery(project, from, to));
  if (query.error !== null) return <Failure error={query.error} />;
  if (query.data === undefined)
    return (
      <p className="muted" role="status">
        Calculating …
      </p>
    );
  return (
    <p>
      {query.data.rows.length === 0 ? "Nothing differs." : summaryWords(query.data).join(" ")}{" "}
      <Link className="underline" to={`/projects/${project}/compare?from=${from}&to=${to}`}>
        By activity
      </Link>
    </p>
  );
}

/** What approving a request freezes by itself, and what else stands in the live plan that it leaves as it is. */
function OnBaseline({ request, alone }: { request: WhatIf; alone: RequestAlone }) {
  const { project, id } = request;
  if (alone.baseline === null)
    return (
      <section className="text-sm">
        <p className="undecided">{alone.fault}</p>
        <OnceFrozen project={project} state={`whatif-${id}`} />
      </section>
    );
  const baseline = `baseline-${alone.baseline}`;
  return (
    <>
      <section className="text-sm">
        <h4 className="font-semibold">The request, against baseline {alone.baseline}</h4>
        {alone.fault !== null ? (
          <p className="undecided">It cannot be approved by itself. {alone.fault}</p>
        ) : (
          <>
            <Compared project={project} from={baseline} to={`request-${id}`} />
            <OnceFrozen project={project} state={`request-${id}`} />
          </>
        )}
      </section>
      <section className="mt-2 text-sm">
        <h4 className="font-semibold">What else stands in the plan, apart from the request</h4>
        <Compared project={project} from={baseline} to="plan" />
        <p className="muted">Approving the request alone leaves this as it is: drift goes on being told of it.</p>
      </section>
    </>
  );
}

type Decision = "approve" | "approveWhole" | "sendBack";

interface WholeProps {
  readonly request: WhatIf;
  readonly baseline: number;
  readonly busy: boolean;
  readonly onApprove: () => void;
  readonly onClose: () => void;
}

/** Asks whoever approves all of a plan with a request whether they mean it. */
function WholePlan({ request, baseline, busy, onApprove, onClose }: WholeProps) {
  const { project, id } = request;
  return (
    <Dialog title="Approve the whole plan as it stands" onClose={onClose}>
      <div className="text-sm">
        <p>
          This re-baselines {request.projectName}: besides the request, all that has moved, come or gone since baseline{" "}
          {baseline} counts as approved, and drift begins anew. Together it is this against baseline {baseline}:
        </p>
        <div className="my-2 border-l-4 border-current pl-3">
          <Compared project={project} from={`baseline-${baseline}`} to={`whatif-${id}`} />
          <OnceFrozen project={project} state={`whatif-${id}`} />
        </div>
        <div className="mt-3 flex gap-2">
          <button type="button" className="btn btn-primary btn-sm" disabled={busy} onClick={onApprove}>
            Approve the whole plan
          </button>
          <button type="button" className="btn btn-sm" onClick={onClose}>
            Cancel
          </button>
        </div>
      </div>
    </Dialog>
  );
}

/** An approver's word on a change request: alone, with the whole plan, or not. */
function Word({ request, view, alone }: { request: WhatIf; view: WhatIfView; alone: RequestAlone }) {
  const client = useQueryClient();
  const [reason, setReason] = useState("");
  const [whole, setWhole] = useState(false);
  const decide = useMutation({
    mutationFn: (decision: Decision) =>
      call("POST /api/whatifs/:whatif/decision", {
        params: { whatif: request.id },
        body: { decision, reason, seen: view.seen },
      }),
    onSuccess: (decided) => {
      toast(
        decided.state === "approved"
          ? `Applied, and baseline ${decided.baseline} of ${decided.projectName} is frozen.`
          : `Change request ${decided.request} was sent back.`,
      );
      void client.invalidateQueries();
    },
    // Refused because the plan moved on: what it comes to now is shown beside the reason that was typed.
    onError: () => void client.invalidateQueries(),
    onSettled: () => setWhole(false),
  });
  const waits = decide.isPending || reason.trim() === "";
  const { baseline, fault } = alone;
  return (
    <form className="mt-1 flex flex-col gap-2" onSubmit={(event) => event.preventDefault()}>
      <label className="flex flex-col gap-1">
        <span className="font-semibold">Your reason</span>
        <textarea
          className="textarea w-full"
          rows={2}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      {decide.error !== null && <Failure error={decide.error} />}
      <div className="flex flex-wrap items-center gap-2">
        {baseline === null ? (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={waits}
            onClick={() => decide.mutate("approveWhole")}
          >
            Approve the plan with it
          </button>
        ) : (
          <>
            <button
              type="button"
              className="btn btn-primary btn-sm"
              disabled={waits || fault !== null}
              onClick={() => decide.mutate("approve")}
            >
              Approve the request alone
            </button>
            <button type="button" className="btn btn-sm" disabled={waits} onClick={() => setWhole(true)}>
              Approve the whole plan …
            </button>
          </>
        )}
        <button type="button" className="btn btn-sm" disabled={waits} onClick={() => decide.mutate("sendBack")}>
          Send back
        </button>
        {reason.trim() === "" && (
          <span className="muted text-sm">Say why first; the reason stays with the baseline.</span>
        )}
      </div>
      {whole && baseline !== null && (
        <WholePlan
          request={request}
          baseline={baseline}
          busy={decide.isPending}
          onApprove={() => decide.mutate("approveWhole")}
          onClose={() => setWhole(false)}
        />
      )}
    </form>
  );
}

function Asked({ request, view, alone }: { request: WhatIf; view: WhatIfView; alone: RequestAlone }) {
  return (
    <>
      <div
        className="my-1 max-h-96 overflow-auto border rule px-2 py-1"
        tabIndex={0}
        role="group"
        aria-label="What it would do"
      >
        {view.effect === null ? (
          <p className="adverse">{view.fault}</p>
        ) : (
          <>
            <OnBaseline request={request} alone={alone} />
            <h4 className="mt-2 text-sm font-semibold">What it moves in the live plan</h4>
            <EffectView effect={view.effect} />
          </>
        )}
        {view.meets.length > 0 && (
          <p className="adverse text-sm">
            The live plan has changed {view.meets.map(({ what }) => what).join(", ")} meanwhile; send it back to be
            merged.
          </p>
        )}
      </div>
      <p className="text-sm">
        <Link className="underline" to={`/projects/${request.project}/compare?from=plan&to=whatif-${request.id}`}>
          The live plan with it, by activity
        </Link>{" "}
        ·{" "}
        <Link className="underline" to={`/projects/${request.project}/whatif/${request.id}`}>
          The plan as it would be
        </Link>
      </p>
      {request.mayDecide ? (
        <Word request={request} view={view} alone={alone} />
      ) : (
        <p className="muted text-sm">An approver decides this, other than whoever put it forward.</p>
      )}
    </>
  );
}

/** A change request to be decided: what it would do, why, and an approver's word. */
export function DecideRequest({ request }: { request: WhatIf }) {
  const query = useQuery(whatIfQuery(request.id));
  const alone = useQuery(aloneQuery(request.id));
  return (
    <div className="mt-1 max-w-2xl">
      {request.reason !== null && <p>“{request.reason}”</p>}
      {request.draw !== null && (
        <p className="text-sm">
          Draws {money(request.draw.amountMinor, request.minorDigits)} {request.currency} of{" "}
          {RESERVE_WORDS[request.draw.kind]}.
        </p>
      )}
      <Loaded query={query}>
        {(view) => <Loaded query={alone}>{(on) => <Asked request={request} view={view} alone={on} />}</Loaded>}
      </Loaded>
    </div>
  );
}
