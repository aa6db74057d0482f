import { REGISTER_TABLES, type Register } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { countWords } from "../../shared/words/words.ts";
import { registerQuery, registerRatesQuery } from "../stored/queries.ts";
import { RegisterCalendars } from "./RegisterCalendars.tsx";
import { RegisterCategories, RegisterTeams } from "./RegisterLists.tsx";
import { RegisterPeople } from "./RegisterPeople.tsx";

const PARTS = [
  { id: "people", name: "People", Part: RegisterPeople },
  { id: "calendars", name: "Calendars", Part: RegisterCalendars },
  { id: "teams", name: "Teams", Part: RegisterTeams },
  { id: "categories", name: "Cost categories", Part: RegisterCategories },
] as const;

/** What projects have that the register has not, to be taken in. */
function Missing({ register }: { register: Register }) {
  const client = useQueryClient();
  const rows = REGISTER_TABLES.reduce((sum, table) => sum + (register.missing[table] ?? 0), 0);
  const take = useMutation({
    mutationFn: () => call("POST /api/register/missing"),
    onSuccess: async ({ taken }) => {
      await client.invalidateQueries({ queryKey: registerQuery.queryKey });
      toast(`${countWords(taken, "row is", "rows are")} taken in; no project has changed.`);
    },
    onError: (error) => toast.error(error.message),
  });
  if (rows === 0 || !register.mayWrite) return null;
  return (
    <p className="undecided flex items-center gap-3 pb-2 text-sm">
      {countWords(rows, "row of a project is", "rows of projects are")} not in the register.
      <button type="button" className="btn btn-xs" disabled={take.isPending} onClick={() => take.mutate()}>
        Take them in
      </button>
    </p>
  );
}

function Parts({ register }: { register: Register }) {
  const [params, put] = useAddress();
  const rates = useQuery({ ...registerRatesQuery, enabled: register.mayWrite });
  const part = PARTS.find(({ id }) => id === params.get("part")) ?? PARTS[0];
  if (rates.error !== null) return <Failure error={rates.error} onAgain={() => void rates.refetch()} />;
  if (register.mayWrite && rates.data === undefined)
    return (
      <p role="status" className="muted">
        Loading …
      </p>
    );
  return (
    <>
      <nav aria-label="Register" className="mb-3 flex gap-4 text-sm">
        {PARTS.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            aria-current={part.id === id ? "page" : undefined}
            className={`cursor-pointer border-b-2 py-0.5 ${part.id === id ? "border-accent font-semibold" : "border-transparent muted"}`}
            onClick={() => put({ part: id === PARTS[0].id ? null : id })}
          >
            {name} <span className="muted">{register[id].length}</span>
          </button>
        ))}
      </nav>
      <Missing register={register} />
      <part.Part register={register} rates={rates.data ?? null} />
    </>
  );
}

/** The calendars, people, rates, teams and cost categories of the whole installation, which projects take from. */
export function RegisterPage() {
  return (
    <div className="page">
      <h1 className="text-xl">Register</h1>
      <p className="muted pb-2 text-sm">
        What projects have in common. A project keeps rows of its own; what is changed here is written to the projects
        that you select, after showing what it would move.
      </p>
      <Loaded query={useQuery(registerQuery)}>{(register) => <Parts register={register} />}</Loaded>
    </div>
  );
}
