import type { WhatIfView } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { call } from "../../shared/session/api.ts";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { valueWords } from "../../plan/valueWords.ts";
import { momentWords } from "../../shared/words/words.ts";

/** What both the live plan and a what-if have changed, each value beside the other, to be settled. */
export function Merge({ view, onMerged }: { view: WhatIfView; onMerged: () => void }) {
  const client = useQueryClient();
  const [mine, setMine] = useState<ReadonlySet<string>>(new Set());
  const merge = useMutation({
    mutationFn: () =>
      call("POST /api/whatifs/:whatif/merge", { params: { whatif: view.whatIf.id }, body: { mine: [...mine] } }),
    onSuccess: () => {
      void client.invalidateQueries();
      onMerged();
    },
  });
  return (
    <section aria-label="To be settled" className="py-1">
      {view.fault === null ? (
        <p className="undecided text-sm">The live plan moved on in the same places. Select which is to hold.</p>
      ) : (
        <p className="adverse text-sm">
          Something that was changed here is gone from the live plan. Merging leaves out what no longer fits.
        </p>
      )}
      {view.meets.length > 0 && (
        <table className="ledger panel-table" aria-label="What both changed">
          <thead>
            <tr>
              <th>What</th>
              <th>The live plan</th>
              <th>This what-if</th>
            </tr>
          </thead>
          <tbody>
            {view.meets.map(({ path, what, live, mine: own, by, at }) => (
              <tr key={path}>
                <td>{what}</td>
                <td>
                  <label className="flex items-center gap-1.5">
                    <input
                      type="radio"
                      name={path}
                      checked={!mine.has(path)}
                      onChange={() => setMine(new Set([...mine].filter((each) => each !== path)))}
                    />
                    {valueWords(path, live)}{" "}
                    <span className="muted text-sm">
                      {by}, {momentWords(at)}
                    </span>
                  </label>
                </td>
                <td>
                  <label className="flex items-center gap-1.5">
                    <input
                      type="radio"
                      name={path}
                      checked={mine.has(path)}
                      onChange={() => setMine(new Set([...mine, path]))}
                    />
                    {valueWords(path, own)}
                  </label>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button type="button" className="btn btn-sm mt-1" disabled={merge.isPending} onClick={() => merge.mutate()}>
        Merge
      </button>
      {merge.error !== null && <Failure error={merge.error} />}
    </section>
  );
}
