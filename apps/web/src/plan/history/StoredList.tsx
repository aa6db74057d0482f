import { THROUGH_WORDS, type HistoryEntry, type TakeBack } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
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

/** What a list made of each field: as it was, and as it is. */
function DifferenceTable({ entry: { lines, total } }: { entry: HistoryEntry }) {
  if (total === 0) return <p className="muted text-sm">It changed no field of the plan.</p>;
  return (
    <div className="max-h-64 overflow-auto border-y rule" tabIndex={0} role="region" aria-label="What was changed">
      <table className="w-full text-sm">
        <thead>
          <tr className="muted text-left">
            {["What", "Field", "Was", "Is"].map((head) => (
              <th key={head} scope="col" className="py-0.5 pr-3 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map(({ path, what, field, was, is }) => (
            <tr key={path} className="border-t rule align-top">
              <td className="py-0.5 pr-3 break-words">{what}</td>
              <td className="py-0.5 pr-3">{field}</td>
              <td className="muted py-0.5 pr-3 break-words">{was}</td>
              <td className="py-0.5 break-words">{is}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {total > lines.length && <p className="muted text-sm">and {total - lines.length} more</p>}
    </div>
  );
}

/** One stored list of changes: what it did, and what taking it back would move. */
export function StoredList({ project, revision, onClose }: Opened) {
  const query = useQuery(storedListQuery(project, revision));
  const entry = query.data;
  return (
    <Dialog title={`Revision ${revision}`} onClose={onClose} wide>
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
              {entry.by}, {momentWords(entry.at)}, {THROUGH_WORDS[entry.through]};{" "}
              {countWords(entry.changes, "change", "changes")}
            </p>
          </div>
          <p className="flex gap-4 text-sm">
            <Link className="underline" to={`/projects/${project}/then/${revision}`}>
              The plan as it was then
            </Link>
            <Link className="underline" to={`/projects/${project}/compare?from=revision-${revision}&to=plan`}>
              Compare it with now
            </Link>
          </p>
          <DifferenceTable entry={entry} />
          <TakingBack project={project} entry={entry} onClose={onClose} />
        </div>
      )}
    </Dialog>
  );
}
