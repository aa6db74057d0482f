import { PROJECT_STATE_WORDS, PROJECT_STATES, type CharterView } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { charterQuery, type Charterer } from "./useCharter.ts";
import { Named } from "../shared/fields/Named.tsx";
import { ShortText } from "./Written.tsx";

/** Gives the project to someone else. */
function HandOver({ view, onClose }: { view: CharterView; onClose: () => void }) {
  const client = useQueryClient();
  const [manager, setManager] = useState("");
  const [word, setWord] = useState("");
  const hand = useMutation({
    mutationFn: () =>
      call("POST /api/projects/:project/hand-over", { params: { project: view.id }, body: { manager, word } }),
    onSuccess: (next) => {
      client.setQueryData(charterQuery(view.id).queryKey, next);
      void client.invalidateQueries();
      toast(`${next.manager.name} manages ${view.head.name} now; both were told.`);
      onClose();
    },
  });
  return (
    <Dialog title={`Hand over ${view.head.name}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          hand.mutate();
        }}
      >
        <label className="flex flex-col text-sm">
          To
          <select
            className="select select-sm"
            required
            value={manager}
            onChange={(event) => setManager(event.target.value)}
          >
            <option value="">whom …</option>
            {view.managers
              .filter(({ id }) => id !== view.manager.id)
              .map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
          </select>
        </label>
        <label className="flex flex-col text-sm">
          A word with it
          <textarea
            className="textarea textarea-sm"
            rows={3}
            maxLength={1000}
            value={word}
            onChange={(event) => setWord(event.target.value)}
          />
        </label>
        <p className="muted text-sm">
          {view.manager.name} and whoever gets it are told; it stands in the project’s history.
        </p>
        {hand.error !== null && <Failure error={hand.error} />}
        <div className="flex justify-end gap-2">
          <button type="button" className="btn btn-sm" onClick={onClose}>
            Cancel
          </button>
          <button className="btn btn-primary btn-sm" disabled={manager === "" || hand.isPending}>
            Hand over
          </button>
        </div>
      </form>
    </Dialog>
  );
}

/** Who answers for a project, for whom it is, and how it stands. */
export function WhoPart({ view, charterer }: { view: CharterView; charterer: Charterer }) {
  const [hands, setHands] = useState(false);
  const { state } = view.charter;
  const shared = { view, charterer };
  return (
    <section>
      <h2 className="pb-1 text-base">Who and how it stands</h2>
      <Named name="Manager">
        {view.manager.name}{" "}
        {view.mayHandOver && (
          <button type="button" className="btn btn-xs ml-2" onClick={() => setHands(true)}>
            Hand over …
          </button>
        )}
      </Named>
      <ShortText {...shared} field="sponsor" name="Sponsor" />
      <ShortText {...shared} field="organisation" name="Organisation" />
      <ShortText {...shared} field="kind" name="Kind of project" />
      <Named name="State">
        {view.closed ? (
          "closed"
        ) : !view.mayEdit ? (
          PROJECT_STATE_WORDS[state]
        ) : (
          <select
            className="select select-xs w-40"
            aria-label="State"
            value={state}
            onChange={(event) => {
              const value = event.target.value as typeof state;
              void charterer
                .write({ field: "state", was: state, value }, `The project is ${PROJECT_STATE_WORDS[value]}.`)
                .then((fault) => fault !== null && toast.error(fault));
            }}
          >
            {PROJECT_STATES.map((each) => (
              <option key={each} value={each}>
                {PROJECT_STATE_WORDS[each]}
              </option>
            ))}
          </select>
        )}{" "}
        {(view.closed || view.mayEdit) && (
          <Link className="pl-2 text-sm underline" to="../closing">
            {view.closed ? "how it was closed" : "close it"}
          </Link>
        )}
      </Named>
      {hands && <HandOver view={view} onClose={() => setHands(false)} />}
    </section>
  );
}
