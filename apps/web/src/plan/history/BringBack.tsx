import type { BackView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { call } from "../../shared/session/api.ts";
import { countWords } from "../../shared/words/words.ts";
import { backQuery } from "../queries.ts";

interface Props {
  readonly project: string;
  readonly revision: number;
  readonly onClose: () => void;
}

function Back({ project, revision, onClose, view }: Props & { view: BackView }) {
  const client = useQueryClient();
  const go = useNavigate();
  const bring = useMutation({
    mutationFn: () =>
      call("POST /api/projects/:project/revisions/:revision/back", {
        params: { project, revision: String(revision) },
        body: { seen: view.seen },
      }),
    onSuccess: async (done) => {
      undoToast(client, {
        revisions: [{ project, revision: done.revision }],
        words: `The plan is as it was at revision ${revision}.`,
      });
      onClose();
      await client.invalidateQueries();
      void go(`/projects/${project}/plan`);
    },
    onError: () => void client.invalidateQueries(backQuery(project, revision)),
  });
  const { lists, stay, changes, effect, why } = view;
  return (
    <div className="flex flex-col gap-2 text-sm">
      <p>
        {countWords(lists, "list of changes was", "lists of changes were")} stored since.{" "}
        {stay > 0 &&
          `${stay === lists ? "All of them are" : stay === 1 ? "One of them is" : `${stay} of them are`} time, costs or progress that was reported: that stays. `}
        Baselines and the data date stay as well.
      </p>
      {effect === null ? (
        <p role="alert">It cannot be brought back. {why}</p>
      ) : (
        <>
          <h3>Bringing it back, by {countWords(changes, "change", "changes")}, would</h3>
          <EffectView effect={effect} />
        </>
      )}
      {bring.error !== null && <Failure error={bring.error} />}
      <div className="mt-2 flex justify-end gap-2">
        <button type="button" className="btn btn-sm" onClick={onClose}>
          Cancel
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={effect === null || bring.isPending}
          onClick={() => bring.mutate()}
        >
          Bring back
        </button>
      </div>
    </div>
  );
}

/** What bringing a plan back to a revision would move, before it is done. */
export function BringBack(props: Props) {
  const query = useQuery(backQuery(props.project, props.revision));
  return (
    <Dialog title={`Back to revision ${props.revision}`} onClose={props.onClose}>
      <Loaded query={query}>{(view) => <Back {...props} view={view} />}</Loaded>
    </Dialog>
  );
}
