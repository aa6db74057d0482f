import type { ImportView } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { dateWords } from "../shared/words/words.ts";
import { understandingsQuery } from "./queries.ts";

/** How files were understood before: this one is read as another was, or how it is read is noted for the next. */
export function Kept({ view, onView }: { view: ImportView; onView: (view: ImportView) => void }) {
  const client = useQueryClient();
  const { data: kept = [] } = useQuery(understandingsQuery);
  const [chosen, setChosen] = useState("");
  const [name, setName] = useState("");
  const use = useMutation({
    mutationFn: (understanding: string) =>
      call("POST /api/imports/:import/understanding/:understanding", { params: { import: view.id, understanding } }),
    onSuccess: onView,
  });
  const note = useMutation({
    mutationFn: () => call("POST /api/imports/:import/understanding", { params: { import: view.id }, body: { name } }),
    onSuccess: (all) => {
      client.setQueryData(understandingsQuery.queryKey, all);
      toast(`The next file can be read as “${name.trim()}”.`);
      setName("");
    },
  });
  const drop = useMutation({
    mutationFn: (understanding: string) =>
      call("DELETE /api/understandings/:understanding", { params: { understanding } }),
    onSuccess: () => {
      setChosen("");
      return client.invalidateQueries(understandingsQuery);
    },
  });
  const one = kept.find(({ id }) => id === chosen);
  const same = kept.some((each) => each.name === name.trim());
  const failure = use.error ?? note.error ?? drop.error;
  return (
    <div className="my-2 flex flex-wrap items-end gap-x-6 gap-y-2 text-sm">
      {kept.length > 0 && (
        <div className="flex items-end gap-2">
          <label className="flex flex-col">
            Read it as an earlier file
            <select
              className="select select-sm w-64"
              value={chosen}
              onChange={(event) => setChosen(event.target.value)}
            >
              <option value="">which one …</option>
              {kept.map((each) => (
                <option key={each.id} value={each.id}>
                  {each.name} ({each.by}, {dateWords(each.at.slice(0, 10))})
                </option>
              ))}
            </select>
          </label>
          <button
            type="button"
            className="btn btn-sm"
            disabled={one === undefined || use.isPending}
            onClick={() => use.mutate(chosen)}
          >
            Read it so
          </button>
          {one !== undefined && (
            <RemoveButton what={`how “${one.name}” is read`} onRemove={() => drop.mutate(one.id)} />
          )}
        </div>
      )}
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          note.mutate();
        }}
      >
        <label className="flex flex-col">
          Note how it is read, for the next file
          <input
            className="input input-sm w-64"
            maxLength={120}
            placeholder="a name, as site office"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <button className="btn btn-sm" disabled={name.trim() === "" || note.isPending}>
          {same ? "Replace" : "Note"}
        </button>
      </form>
      {failure !== null && <Failure error={failure} />}
    </div>
  );
}
