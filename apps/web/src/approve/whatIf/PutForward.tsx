import type { WhatIfView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { AMOUNT_FAULT, readAmountAbove0 } from "../../shared/words/amounts.ts";
import { call } from "../../shared/session/api.ts";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { money } from "../../shared/words/words.ts";
import { reservesQuery } from "../queries.ts";
import { RESERVE_WORDS, type ReserveKind } from "../words/reserveWords.ts";

/** Puts a what-if forward: days and cost are taken from it, the reason is given, and what it draws on a reserve. */
export function PutForward({ view, onDone }: { view: WhatIfView; onDone: () => void }) {
  const { whatIf, effect } = view;
  const client = useQueryClient();
  const { data: reserves } = useQuery(reservesQuery(whatIf.project));
  const [reason, setReason] = useState(whatIf.reason ?? "");
  const [kind, setKind] = useState<ReserveKind | "">("");
  const [amount, setAmount] = useState("");
  const minor = readAmountAbove0(amount, whatIf.minorDigits);
  const ask = useMutation({
    mutationFn: () =>
      call("POST /api/whatifs/:whatif/request", {
        params: { whatif: whatIf.id },
        body: { reason, ...(kind === "" || minor === null ? {} : { draw: { kind, amountMinor: minor } }) },
      }),
    onSuccess: ({ request }) => {
      toast(`Change request ${request} waits for an approver.`);
      void client.invalidateQueries();
      onDone();
    },
  });
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        ask.mutate();
      }}
    >
      {effect !== null && (
        <div className="max-h-56 overflow-auto border rule px-2 py-1">
          <EffectView effect={effect} />
        </div>
      )}
      <label className="flex flex-col gap-1">
        <span className="font-semibold">Why the plan is to change</span>
        <textarea
          className="textarea w-full"
          rows={2}
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
      </label>
      <div className="flex flex-wrap items-end gap-2 text-sm">
        <label className="flex flex-col gap-1">
          Paid from
          <select
            className="select select-sm w-56"
            value={kind}
            onChange={(event) => setKind(event.target.value as ReserveKind | "")}
          >
            <option value="">the work’s budget</option>
            {(Object.keys(RESERVE_WORDS) as ReserveKind[]).map((each) => (
              <option key={each} value={each}>
                {RESERVE_WORDS[each]}
                {reserves === undefined ? "" : `, ${money(reserves.balances[each], whatIf.minorDigits)} remaining`}
              </option>
            ))}
          </select>
        </label>
        {kind !== "" && (
          <label className="flex flex-col gap-1">
            {whatIf.currency}
            <input
              className="input input-sm w-32 text-right"
              inputMode="decimal"
              value={amount}
              title={amount !== "" && minor === null ? AMOUNT_FAULT : undefined}
              aria-invalid={amount !== "" && minor === null}
              onChange={(event) => setAmount(event.target.value)}
            />
          </label>
        )}
      </div>
      {ask.error !== null && <Failure error={ask.error} />}
      <button
        className="btn btn-primary"
        disabled={ask.isPending || reason.trim().length < 3 || (kind !== "" && minor === null)}
      >
        Put forward
      </button>
    </form>
  );
}
