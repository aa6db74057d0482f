import type { WhatIf } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { toast } from "sonner";
import { call } from "../shared/api.ts";
import { EffectView } from "../shared/EffectView.tsx";
import { Failure, Loaded } from "../shared/Failure.tsx";
import { money, momentWords } from "../shared/words.ts";
import { OnceFrozen } from "./OnceFrozen.tsx";
import { whatIfQuery } from "./queries.ts";
import { RESERVE_WORDS } from "./reserveWords.ts";
import { stateWords } from "./whatIfWords.ts";

/** A change request to be decided: what it would do, why, and an approver's word. */
export function DecideRequest({ request }: { request: WhatIf }) {
  const client = useQueryClient();
  const query = useQuery(whatIfQuery(request.id));
  const [reason, setReason] = useState("");
  const decide = useMutation({
    mutationFn: (decision: "approve" | "sendBack") => call("POST /api/whatifs/:whatif/decision", { params: { whatif: request.id }, body: { decision, reason, ...(query.data === undefined ? {} : { seen: query.data.seen }) } }),
    onSuccess: (decided) => {
      toast(decided.state === "approved" ? `Applied, and baseline ${decided.baseline} of ${decided.projectName} is frozen.` : `Change request ${decided.request} was sent back.`);
      void client.invalidateQueries();
    },
    // Refused because the plan moved on: what it comes to now is shown beside the reason that was typed.
    onError: () => void client.invalidateQueries({ queryKey: whatIfQuery(request.id).queryKey }),
  });
  return (
    <div className="mt-1 max-w-2xl">
      {request.reason !== null && <p>“{request.reason}”</p>}
      {request.draw !== null && <p className="text-sm">Draws {money(request.draw.amountMinor, request.minorDigits)} {request.currency} of {RESERVE_WORDS[request.draw.kind]}.</p>}
      <Loaded query={query}>
        {(view) => (
          <div className="my-1 max-h-64 overflow-auto border rule px-2 py-1">
            {view.effect === null ? <p className="adverse">{view.fault}</p> : <><OnceFrozen project={request.project} state={`whatif-${request.id}`} /><EffectView effect={view.effect} /></>}
            {view.meets.length > 0 && <p className="adverse text-sm">The live plan has changed {view.meets.map(({ what }) => what).join(", ")} meanwhile; send it back to be merged.</p>}
          </div>
        )}
      </Loaded>
      <p className="text-sm"><Link className="underline" to={`/projects/${request.project}/compare?from=plan&to=whatif-${request.id}`}>By activity</Link> · <Link className="underline" to={`/projects/${request.project}/whatif/${request.id}`}>The plan as it would be</Link></p>
      {request.mayDecide ? (
        <form className="mt-1 flex flex-col gap-2" onSubmit={(event) => event.preventDefault()}>
          <label className="flex flex-col gap-1"><span className="font-semibold">Your reason</span><textarea className="textarea w-full" rows={2} value={reason} onChange={(event) => setReason(event.target.value)} /></label>
          {decide.error !== null && <Failure error={decide.error} />}
          <div className="flex gap-2">
            <button type="button" className="btn btn-primary btn-sm" disabled={decide.isPending || reason.trim() === ""} onClick={() => decide.mutate("approve")}>Approve, apply and freeze</button>
            <button type="button" className="btn btn-sm" disabled={decide.isPending || reason.trim() === ""} onClick={() => decide.mutate("sendBack")}>Send back</button>
          </div>
        </form>
      ) : <p className="muted text-sm">An approver decides this, other than whoever put it forward.</p>}
    </div>
  );
}

/** What is or was tried beside a plan, and the change requests that came of it. */
export function WhatIfs({ list }: { list: readonly WhatIf[] }) {
  if (list.length === 0) return <p className="muted py-2">Nothing was tried beside this plan yet. “What if” on the plan’s page begins a copy.</p>;
  return (
    <ul className="text-sm">
      {list.map((each) => (
        <li key={each.id} className="border-b rule py-1.5">
          {each.state === "open" || each.state === "sentBack" || each.state === "asked" ? <Link className="font-semibold underline" to={`/projects/${each.project}/whatif/${each.id}`}>{each.name}</Link> : <span className="font-semibold">{each.name}</span>} <span className="muted">by {each.by}, {momentWords(each.at)}: {stateWords(each)}</span>
          {each.reason !== null && each.state !== "asked" && <span> “{each.reason}”</span>}
          {each.state === "asked" && <DecideRequest request={each} />}
        </li>
      ))}
    </ul>
  );
}
