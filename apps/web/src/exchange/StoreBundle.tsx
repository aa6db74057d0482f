import type { ImportView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { useGroupChoices } from "../project/useGroupChoices.ts";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { countWords } from "../shared/words/words.ts";
import { portfolioQuery } from "../project/queries.ts";

/** Stands in the choice of programmes for one that is still to be made. */
const NEW_PROGRAMME = "new";

/** Gives up a file that was brought. */
export function Drop({ view }: { view: ImportView }) {
  const navigate = useNavigate();
  const drop = useMutation({
    mutationFn: () => call("DELETE /api/imports/:import", { params: { import: view.id } }),
    onSuccess: () => navigate("/import"),
  });
  return (
    <button type="button" className="btn btn-sm" onClick={() => drop.mutate()}>
      Discard
    </button>
  );
}

/** What has to be done before the file can be stored. */
function hindrance({ errors, peopleQuestion }: ImportView): string {
  const names = peopleQuestion.length;
  const wrong = errors - names;
  const parts = [
    ...(wrong > 0 ? [`${countWords(wrong, "error is", "errors are")} mended`] : []),
    ...(names > 0 ? [`it is said who ${countWords(names, "name is", "names are")}`] : []),
  ];
  return `Nothing is stored until ${parts.join(" and ")}.`;
}

/** Stores what was understood: as a new project, or as changes to one. */
export function StoreBundle({ view }: { view: ImportView }) {
  const client = useQueryClient();
  const navigate = useNavigate();
  const { choices, isEverywhere } = useGroupChoices();
  const [chosen, setChosen] = useState<string | null>(null);
  const programme = chosen ?? choices[0]?.id ?? "";
  const [newName, setNewName] = useState("");
  const [manager, setManager] = useState(view.manager ?? "");
  const isNew = programme === NEW_PROGRAMME;
  const store = useMutation({
    mutationFn: async () => {
      const id = isNew ? (await call("POST /api/programmes", { body: { name: newName } })).id : programme;
      return call("POST /api/imports/:import/store", {
        params: { import: view.id },
        body: { programme: id === "" ? null : id, ...(manager === "" ? {} : { manager }) },
      });
    },
    onSuccess: ({ project }) => {
      toast(`${view.project?.name ?? "The plan"} is stored.`);
      void client.invalidateQueries();
      void navigate(`/projects/${project}/plan`);
    },
  });
  return (
    <>
      <div className="flex flex-wrap items-end gap-2">
        <label className="flex flex-col text-sm">
          Belongs to
          <select
            className="select select-sm w-64"
            value={programme}
            onChange={(event) => setChosen(event.target.value)}
          >
            {choices.map(({ id, words }) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
            {isEverywhere && <option value={NEW_PROGRAMME}>a new group …</option>}
          </select>
        </label>
        {isNew && (
          <label className="flex flex-col text-sm">
            Its name
            <input
              className="input input-sm w-56"
              value={newName}
              onChange={(event) => setNewName(event.target.value)}
            />
          </label>
        )}
        {view.known.managers.length > 1 && (
          <label className="flex flex-col text-sm">
            Manager
            <select
              className="select select-sm w-48"
              value={manager}
              onChange={(event) => setManager(event.target.value)}
            >
              <option value="">yourself</option>
              {view.known.managers.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        )}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!view.storable || store.isPending || (isNew && newName.trim() === "")}
          onClick={() => store.mutate()}
        >
          {store.isPending ? "Storing …" : "Store as a new project"}
        </button>
        <Drop view={view} />
        {!view.storable && <span className="adverse text-sm">{hindrance(view)}</span>}
      </div>
      {store.error !== null && <Failure error={store.error} />}
    </>
  );
}

/** Whether the file is a new project, or brings changes to one that is there. */
export function Destination({
  view,
  onAnswer,
}: {
  view: ImportView;
  onAnswer: (changesTo: string | undefined) => void;
}) {
  const { data: portfolio } = useQuery(portfolioQuery);
  const own = portfolio?.projects.filter(({ mayEdit, closed }) => mayEdit && !closed) ?? [];
  const same = own.find(({ code }) => code === view.project?.code);
  return (
    <label className="mt-2 flex flex-wrap items-center gap-2 text-sm">
      It is
      <select
        className="select select-sm w-80"
        value={view.answers.changesTo ?? ""}
        onChange={(event) => onAnswer(event.target.value === "" ? undefined : event.target.value)}
      >
        <option value="">a new project</option>
        {own.map(({ id, code, name }) => (
          <option key={id} value={id}>
            an edited copy of {code} {name}
          </option>
        ))}
      </select>
      {same !== undefined && view.answers.changesTo === undefined && (
        <span className="undecided">
          Its code is that of {same.name}: is it an edited copy of it?{" "}
          <button type="button" className="cursor-pointer underline" onClick={() => onAnswer(same.id)}>
            Show what it would change
          </button>
        </span>
      )}
    </label>
  );
}
