import type { Matter, MatterSettings } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { useAddress } from "../../shared/page/useAddress.ts";
import { call } from "../../shared/session/api.ts";
import { countWords } from "../../shared/words/words.ts";
import { mattersChanged } from "../queries.ts";
import { WhoWhen } from "../WhoWhen.tsx";

/** A risk struck: what waking the parked work tied to it moves, and the issue that it becomes. */
export function StrikeForm(props: { matter: Matter; settings: MatterSettings; onClose: () => void }) {
  const { matter, settings, onClose } = props;
  const { id, project } = matter;
  const client = useQueryClient();
  const [, put] = useAddress();
  const effect = useQuery({
    queryKey: ["matters", "strike", id],
    queryFn: () => call("POST /api/matters/:matter/strike/effect", { params: { matter: id } }),
    staleTime: 0,
  });
  const [title, setTitle] = useState(matter.title);
  const [severity, setSeverity] = useState(matter.severity ?? "");
  const [owner, setOwner] = useState<string | null>(matter.owner?.id ?? null);
  const [due, setDue] = useState("");
  const strike = useMutation({
    mutationFn: () =>
      call("POST /api/matters/:matter/strike", {
        params: { matter: id },
        body: { title: title.trim(), severity: severity === "" ? null : severity, owner, due: due === "" ? null : due },
      }),
    onSuccess: ({ issue, woken, revision }) => {
      mattersChanged(client);
      void client.invalidateQueries({ queryKey: ["project", project!.id] });
      const words =
        woken.length === 0 ? "" : ` ${countWords(woken.length, "parked activity is", "parked activities are")} woken.`;
      undoToast(client, {
        revisions: [{ project: project!.id, revision }],
        words: `The risk is an issue now.${words}`,
        also: () =>
          call("PUT /api/matters/:matter", {
            params: { matter: issue },
            body: { writes: [{ field: "removed", was: false, value: true }] },
          }),
      });
      put({ matter: issue });
      onClose();
    },
  });
  return (
    <form
      className="flex flex-col gap-3 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        strike.mutate();
      }}
    >
      <p>
        The risk is over, and leaves the simulation and what risks are expected to cost. Parked work that it is tied to,
        or bears on, wakes:
      </p>
      <div className="border rule px-3 py-2">
        <Loaded query={effect}>{(moved) => <EffectView effect={moved} />}</Loaded>
      </div>
      <label className="flex flex-col">
        The issue that it becomes
        <input
          className="input input-sm w-full"
          required
          maxLength={200}
          value={title}
          onChange={(event) => setTitle(event.target.value)}
        />
      </label>
      <div className="flex flex-wrap items-end gap-3">
        <WhoWhen
          settings={settings}
          severity={severity}
          onSeverity={setSeverity}
          ownerNote={matter.owner === null ? "" : `, else ${matter.owner.name}`}
          onOwner={(next) => setOwner(next ?? matter.owner?.id ?? null)}
          due={due}
          onDue={setDue}
        />
      </div>
      {strike.error !== null && (
        <p role="alert" className="adverse">
          {strike.error.message}
        </p>
      )}
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-sm" onClick={onClose}>
          Cancel
        </button>
        <button className="btn btn-primary btn-sm" disabled={strike.isPending || effect.data === undefined}>
          It struck
        </button>
      </div>
    </form>
  );
}
