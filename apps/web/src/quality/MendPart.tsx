import type { Mend } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call } from "../shared/session/api.ts";
import { EffectView } from "../shared/dialogs/EffectView.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { undoToast } from "../shared/dialogs/undoToast.ts";
import { countWords } from "../shared/words/words.ts";
import { mendEffectQuery } from "./queries.ts";

const HOW: Record<Mend, { readonly does: string; readonly button: string }> = {
  linkLooseEnds: {
    does: "What nothing leads to is put after the first start, and the last finish after what leads to nothing. Where you know better what comes before or after, link it by hand.",
    button: "Link them to both ends",
  },
  leadsToOverlaps: {
    does: "A start so long before the end of what it waits for is said as so long after its start.",
    button: "Say them as overlaps",
  },
  softenWishes: {
    does: "“On” becomes “not before”; a latest finish becomes a deadline, which is seen and holds nothing.",
    button: "Soften them",
  },
  dropRedundant: { does: "Other links say the same; no date moves.", button: "Remove them" },
};

interface Props {
  readonly project: string;
  readonly mend: Mend;
  readonly chosen: readonly string[];
  readonly onDone: () => void;
}

/** Mends what is chosen, all at once, after showing what that moves. */
export function MendPart({ project, mend, chosen, onDone }: Props) {
  const client = useQueryClient();
  const body = { mend, activities: [...chosen] };
  const effect = useQuery({ ...mendEffectQuery(project, body), enabled: chosen.length > 0 });
  const store = useMutation({
    mutationFn: () => call("POST /api/projects/:project/quality/mend", { params: { project }, body }),
    onSuccess: ({ revision, changes }) => {
      void client.invalidateQueries();
      onDone();
      undoToast(client, {
        revisions: [{ project, revision }],
        words: `${countWords(changes, "change", "changes")} made.`,
      });
    },
  });
  return (
    <section aria-label="Mend many" className="mt-3 border-t rule pt-2">
      <h3 className="text-sm">Mend {countWords(chosen.length, "activity", "activities")} at once</h3>
      <p className="muted text-sm">{HOW[mend].does}</p>
      {chosen.length === 0 ? (
        <p className="muted pt-1 text-sm">Select those to be mended.</p>
      ) : effect.error !== null ? (
        <Failure error={effect.error} />
      ) : effect.data === undefined ? (
        <p className="muted text-sm" role="status">
          Calculating …
        </p>
      ) : (
        <div aria-busy={effect.isPlaceholderData}>
          <EffectView effect={effect.data.effect} />
          {effect.data.left.length > 0 && (
            <ul className="undecided mt-1 text-sm">
              {effect.data.left.map(({ id, name, why }) => (
                <li key={id}>
                  {name} stays: {why}.
                </li>
              ))}
            </ul>
          )}
          <button
            type="button"
            className="btn btn-primary btn-sm mt-2"
            disabled={store.isPending || effect.isPlaceholderData}
            onClick={() => store.mutate()}
          >
            {HOW[mend].button}: {countWords(effect.data.changes, "change", "changes")}
          </button>
        </div>
      )}
      {store.error !== null && <Failure error={store.error} />}
    </section>
  );
}
