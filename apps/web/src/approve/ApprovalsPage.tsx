import type { Approval } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { momentWords } from "../shared/words/words.ts";
import { AskedGates } from "../gates/AskedGates.tsx";
import { AgreedWords, Decide } from "./Decide.tsx";
import { PlanState } from "./PlanState.tsx";
import { approvalsQuery, requestsQuery } from "./queries.ts";
import { DecideRequest } from "./DecideRequest.tsx";

function Waiting({ approval }: { approval: Approval }) {
  const me = useMe();
  const why = !holds(me, "approver")
    ? "An approver decides this."
    : "You asked for this yourself; another approver decides it.";
  return (
    <li className="border-b rule py-3">
      <h2 className="text-base">
        <Link className="link-quiet" to={`/projects/${approval.project}/plan`}>
          <span className="muted">{approval.projectCode}</span> {approval.projectName}
        </Link>
      </h2>
      <p className="text-sm muted">
        {approval.askedBy} asked on {momentWords(approval.askedAt)}
      </p>
      {approval.word !== "" && <p className="mt-1 max-w-prose">“{approval.word}”</p>}
      <AgreedWords approval={approval} />
      <PlanState project={approval.project} asked={approval} />
      {approval.mayDecide ? <Decide approval={approval} /> : <p className="muted mt-1 text-sm">{why}</p>}
    </li>
  );
}

/** Plans that wait for someone's approval. */
export function ApprovalsPage() {
  const query = useQuery(approvalsQuery);
  const requests = useQuery(requestsQuery);
  return (
    <div className="page max-w-4xl">
      <h1 className="text-xl">Waiting for approval</h1>
      <Loaded query={query}>
        {(approvals) =>
          approvals.length === 0 ? (
            <p className="muted mt-2">
              No plan waits for approval. A project manager asks for it on the project's Approvals page.
            </p>
          ) : (
            <ul>
              {approvals.map((approval) => (
                <Waiting key={approval.id} approval={approval} />
              ))}
            </ul>
          )
        }
      </Loaded>
      <AskedGates />
      <h2 className="pt-6 text-lg">Change requests</h2>
      <Loaded query={requests}>
        {(list) =>
          list.length === 0 ? (
            <p className="muted mt-2">No change request waits. One is put forward from a what-if beside a plan.</p>
          ) : (
            <ul>
              {list.map((request) => (
                <li key={request.id} className="border-b rule py-3">
                  <h3 className="text-base">
                    <Link className="link-quiet" to={`/projects/${request.project}/plan`}>
                      <span className="muted">{request.projectCode}</span> {request.projectName}
                    </Link>
                    : change request {request.request}, {request.name}
                  </h3>
                  <p className="muted text-sm">
                    {request.by} put it forward on {momentWords(request.askedAt!)}
                  </p>
                  <DecideRequest request={request} />
                </li>
              ))}
            </ul>
          )
        }
      </Loaded>
    </div>
  );
}
