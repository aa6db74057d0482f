import type { Register, RegisterTable, TakeOver } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { call } from "../../shared/session/api.ts";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { undoToast } from "../../shared/dialogs/undoToast.ts";
import { countWords } from "../../shared/words/words.ts";
import { registerQuery } from "../stored/queries.ts";
import { Moved } from "../stored/SharedStore.tsx";

/** A row of the register that a project lacks, or of which it says something else. */
export interface Offered {
  readonly id: string;
  readonly name: string;
  readonly differs: boolean;
}

/** What the register has for a project: what it lacks first, then what differs there. */
export function offeredTo(register: Register, table: RegisterTable, project: string): Offered[] {
  const rows = register[table].flatMap(({ row, projects }): Offered[] => {
    const here = projects.find(({ id }) => id === project);
    return here?.same === true ? [] : [{ id: row.id, name: row.name, differs: here !== undefined }];
  });
  return [...rows.filter(({ differs }) => !differs), ...rows.filter(({ differs }) => differs)];
}

interface Props {
  readonly project: string;
  readonly table: RegisterTable;
  readonly onClose: () => void;
}

function Choose({ project, table, onClose, register }: Props & { register: Register }) {
  const client = useQueryClient();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [filter, setFilter] = useState("");
  const offered = offeredTo(register, table, project);
  const shown = offered.filter(({ name }) => name.toLowerCase().includes(filter.trim().toLowerCase()));
  const body: TakeOver = { rows: [...chosen].map((id) => ({ table, id })) };
  const asked = [...chosen].sort().join(" ");
  const preview = useMutation({
    mutationFn: async () => ({
      asked,
      effects: await call("POST /api/projects/:project/register/effect", { params: { project }, body }),
    }),
  });
  const take = useMutation({
    mutationFn: () => call("POST /api/projects/:project/register", { params: { project }, body }),
    onSuccess: (stored) => {
      undoToast(client, {
        revisions: stored,
        words: `${countWords(chosen.size, "row is", "rows are")} taken over from the register.`,
      });
      void client.invalidateQueries();
      onClose();
    },
  });
  const toggle = (id: string, on: boolean): void =>
    setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((each) => each !== id)));
  if (offered.length === 0) return <p>This project has all that the register has, and says the same.</p>;
  const effects = preview.data?.asked === asked ? preview.data.effects : null;
  return (
    <div className="text-sm">
      <input
        className="input input-sm mb-2 w-full"
        aria-label="Filter the register"
        placeholder="Filter"
        value={filter}
        onChange={(event) => setFilter(event.target.value)}
      />
      <ul aria-label="In the register" className="max-h-72 overflow-auto" tabIndex={0}>
        {shown.map(({ id, name, differs }) => (
          <li key={id} className="border-b rule">
            <label className="flex items-center gap-2 py-0.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={chosen.has(id)}
                onChange={(event) => toggle(id, event.target.checked)}
              />
              {name}
              <span className={`ml-auto ${differs ? "undecided" : "muted"}`}>
                {differs ? "differs here" : "not here"}
              </span>
            </label>
          </li>
        ))}
      </ul>
      {shown.length === 0 && <p className="muted py-1">None of that name.</p>}
      <div className="mt-3 flex items-center gap-2">
        <button
          type="button"
          className="btn btn-sm"
          disabled={chosen.size === 0 || preview.isPending}
          onClick={() => preview.mutate()}
        >
          {preview.isPending ? "Calculating …" : "Show what moves"}
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={chosen.size === 0 || take.isPending}
          onClick={() => take.mutate()}
        >
          Take {chosen.size === 0 ? "" : chosen.size} over
        </button>
      </div>
      {(preview.error ?? take.error) !== null && <Failure error={preview.error ?? take.error} />}
      {effects !== null && <Moved effects={effects} />}
    </div>
  );
}

const NAMES: Record<RegisterTable, string> = {
  calendars: "Calendars of the register",
  people: "People of the register",
  teams: "Teams of the register",
  categories: "Cost categories of the register",
};

/** Selects rows of the register for a project, and shows what taking them over would move. */
export function FromRegister(props: Props) {
  return (
    <Dialog title={NAMES[props.table]} onClose={props.onClose}>
      <Loaded query={useQuery(registerQuery)}>{(register) => <Choose {...props} register={register} />}</Loaded>
    </Dialog>
  );
}
