import type { HistoryEntry, TakeBack } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call } from "../../shared/session/api.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { countWords, momentWords } from "../../shared/words/words.ts";
import { storedListQuery } from "../queries.ts";

interface Opened {
  readonly project: string;
  readonly revision: number;
  readonly onClose: () => void;
}

function Refusal({ why, restsOn }: TakeBack) {
  return (
    <div className="text-sm">
      <p>It cannot be undone. {why}</p>
      <ul className="list-disc pl-5">
        {restsOn.slice(0, 12).map(({ what, by, at }) => (
          <li key={what}>
            {what}, by {by}, {momentWords(at)}
          </li>
        ))}
      </ul>
      {restsOn.length > 12 && <p className="muted">and {restsOn.length - 12} more</p>}
    </div>
  );
}

function TakingBack({ project, entry, onClose }: { project: string; entry: HistoryEntry; onClose: () => void }) {
  const client = useQueryClient();
  const { revision, label, takeBack } = entry;
  const taking = useMutation({
    mutationFn: () => call("POST /api/projects/:project/undo", { params: { project }, body: { revision } }),
    onSuccess: (done) => {
      undoToast(client, { revisions: [{ project, revision: done.revision }], words: `Taken back: ${label}` });
      onClose();
      return client.invalidateQueries();
    },
  });
  if (entry.takenBack) return <p className="text-sm">It was undone.</p>;
  if (takeBack === null) return null;
  if (takeBack.effect === null) return <Refusal {...takeBack} />;
  return (
    <>
      <h3 className="text-sm">Taking it back would</h3>
      <EffectView effect={takeBack.effect} />
      {taking.error !== null && <Failure error={taking.error} />}
      <div className="mt-3 flex justify-end gap-2">
        <button type="button" className="btn btn-sm" onClick={onClose}>
          Cancel
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={taking.isPending}
          onClick={() => taking.mutate()}
        >
          Undo
        </button>
      </div>
    </>
  );
}

/** One stored list of changes: what it did, and what taking it back would move. */
export function StoredList({ project, revision, onClose }: Opened) {
  const query = useQuery(storedListQuery(project, revision));
  const entry = query.data;
  return (
    <Dialog title={`Revision ${revision}`} onClose={onClose}>
      {query.error !== null && <Failure error={query.error} onAgain={() => void query.refetch()} />}
      {entry === undefined && query.error === null && (
        <p className="muted" role="status">
          Loading …
        </p>
      )}
      {entry !== undefined && (
        <div className="flex flex-col gap-3">
          <div>
            <p className="font-semibold">{entry.label}</p>
            <p className="muted text-sm">
              {entry.by}, {momentWords(entry.at)}; {countWords(entry.changes, "change", "changes")}
            </p>
          </div>
          <ul className="max-h-40 overflow-auto border-y rule text-sm" tabIndex={0} aria-label="What was changed">
            {entry.what.map((words, i) => (
              <li key={i} className="py-0.5">
                {words}
              </li>
            ))}
            {entry.changes > entry.what.length && (
              <li className="muted py-0.5">and {entry.changes - entry.what.length} more</li>
            )}
          </ul>
          <TakingBack project={project} entry={entry} onClose={onClose} />
        </div>
      )}
    </Dialog>
  );
}
