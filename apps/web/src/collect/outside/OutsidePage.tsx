import type { OutsideLine, OutsideTargets } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { holdsEverywhere, useMe } from "../../shared/session/session.ts";
import { BringLines, takenWords } from "./BringLines.tsx";
import { CostByHand } from "./CostByHand.tsx";
import { linesQuery, targetsQuery } from "./queries.ts";
import { columnsOf } from "./outsideColumns.tsx";
import { LineActions } from "./LineActions.tsx";

function Lines({ lines, targets }: { lines: readonly OutsideLine[]; targets: OutsideTargets }) {
  const me = useMe();
  const client = useQueryClient();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const columns = useMemo(
    () =>
      columnsOf(chosen, (id, on) =>
        setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((other) => other !== id))),
      ),
    [chosen],
  );
  const here = lines.filter(({ id }) => chosen.has(id));
  const ready = lines.filter(({ state }) => state === "matched");
  const fetchFrom = useMutation({
    mutationFn: (which: "clock" | "ledger") => call("POST /api/outside/simulated", { body: { which } }),
    onSuccess: (taken) => {
      toast(takenWords(taken));
      void client.invalidateQueries({ queryKey: ["outside"] });
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <div className="page">
      <div className="flex flex-wrap items-center gap-2 pb-1">
        <h1 className="text-xl">Costs and time from elsewhere</h1>
        <BringLines kind="cost" />
        <BringLines kind="time" />
        {holdsEverywhere(me, "controller") && (
          <>
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              disabled={fetchFrom.isPending}
              onClick={() => fetchFrom.mutate("ledger")}
            >
              From the simulated ledger
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              disabled={fetchFrom.isPending}
              onClick={() => fetchFrom.mutate("clock")}
            >
              From the simulated time clock
            </button>
          </>
        )}
        {ready.length > 0 && (
          <button
            type="button"
            className="btn btn-xs ml-auto"
            onClick={() => setChosen(new Set(ready.map(({ id }) => id)))}
          >
            Select all {ready.length} that are ready
          </button>
        )}
      </div>
      <CostByHand targets={targets} />
      {here.length > 0 && (
        <LineActions key={here.length} lines={here} targets={targets} onDone={() => setChosen(new Set())} />
      )}
      <DataTable
        name="Costs and time from elsewhere"
        rows={lines}
        columns={columns}
        rowKey={({ id }) => id}
        empty={
          <>
            Nothing waits. Bring an invoice list or a time sheet as a file, or have another system send it: an
            administrator gives it a token under Other systems.
          </>
        }
      />
    </div>
  );
}

/** Costs and time that came from other systems: matched, posted, or set aside for a decision. */
export function OutsidePage() {
  const lines = useQuery(linesQuery);
  const targets = useQuery(targetsQuery);
  return (
    <Loaded query={lines}>
      {(list) => <Loaded query={targets}>{(to) => <Lines lines={list} targets={to} />}</Loaded>}
    </Loaded>
  );
}
