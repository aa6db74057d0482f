import type { Reserves } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { AMOUNT_FAULT, readAmountAbove0 } from "../shared/words/amounts.ts";
import { call } from "../shared/session/api.ts";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { money, momentWords } from "../shared/words/words.ts";
import { reservesQuery } from "./queries.ts";
import { RESERVE_WORDS, type ReserveKind } from "./words/reserveWords.ts";

function Entry({ project, reserves }: { project: string; reserves: Reserves }) {
  const client = useQueryClient();
  const [kind, setKind] = useState<ReserveKind>("contingency");
  const [way, setWay] = useState<1 | -1>(1);
  const [amount, setAmount] = useState("");
  const [reason, setReason] = useState("");
  const minor = readAmountAbove0(amount, reserves.minorDigits);
  const enter = useMutation({
    mutationFn: () =>
      call("POST /api/projects/:project/reserves", {
        params: { project },
        body: { kind, amountMinor: way * minor!, reason },
      }),
    onSuccess: (now) => {
      client.setQueryData(reservesQuery(project).queryKey, now);
      setAmount("");
      setReason("");
    },
  });
  return (
    <form
      className="mt-1 flex flex-wrap items-end gap-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        enter.mutate();
      }}
    >
      <select
        className="select select-sm w-32"
        aria-label="Set aside or draw"
        value={way}
        onChange={(event) => setWay(Number(event.target.value) as 1 | -1)}
      >
        <option value={1}>Set aside</option>
        <option value={-1}>Draw</option>
      </select>
      <input
        className="input input-sm w-28 text-right"
        aria-label={`Amount in ${reserves.currency}`}
        placeholder={reserves.currency}
        value={amount}
        title={amount !== "" && minor === null ? AMOUNT_FAULT : undefined}
        aria-invalid={amount !== "" && minor === null}
        onChange={(event) => setAmount(event.target.value)}
      />
      <select
        className="select select-sm w-48"
        aria-label="Which reserve"
        value={kind}
        onChange={(event) => setKind(event.target.value as ReserveKind)}
      >
        {Object.entries(RESERVE_WORDS).map(([each, words]) => (
          <option key={each} value={each}>
            {words}
          </option>
        ))}
      </select>
      <input
        className="input input-sm w-64"
        aria-label="What for"
        placeholder="what for"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <button className="btn btn-sm" disabled={enter.isPending || minor === null || reason.trim().length < 3}>
        Enter
      </button>
      {enter.error !== null && <Failure error={enter.error} />}
    </form>
  );
}

/** Contingency and management reserve, apart from the work's budget, and every draw on them. */
export function ReservesPart({ project }: { project: string }) {
  const query = useQuery(reservesQuery(project));
  return (
    <section aria-label="Reserves" className="pt-6">
      <h2 className="text-base">Reserves</h2>
      <Loaded query={query}>
        {(reserves) => (
          <>
            <p className="text-sm">
              {(Object.keys(RESERVE_WORDS) as ReserveKind[]).map((kind, i) => (
                <span key={kind}>
                  {i > 0 && " · "}
                  {RESERVE_WORDS[kind]}{" "}
                  <span className="figure">{money(reserves.balances[kind], reserves.minorDigits)}</span>{" "}
                  {reserves.currency}
                </span>
              ))}{" "}
              <span className="muted">beside the budget, in no baseline</span>
            </p>
            <ul className="text-sm">
              {reserves.entries.map(({ id, kind, amountMinor, reason, by, at }) => (
                <li key={id} className="border-b rule py-1">
                  <span className={amountMinor < 0 ? "adverse" : "favourable"}>
                    {amountMinor < 0 ? "drawn" : "set aside"} {money(Math.abs(amountMinor), reserves.minorDigits)}
                  </span>{" "}
                  of {RESERVE_WORDS[kind]}: {reason}{" "}
                  <span className="muted">
                    {by}, {momentWords(at)}
                  </span>
                </li>
              ))}
            </ul>
            {reserves.mayEdit && <Entry project={project} reserves={reserves} />}
          </>
        )}
      </Loaded>
    </section>
  );
}
