import { TOKEN_PURPOSES, type TokenPurpose } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { tokensQuery } from "../../collect/outside/queries.ts";
import { inTreeOrder } from "../../project/programmeTree.ts";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { DateField } from "../../shared/fields/DateField.tsx";
import { call } from "../../shared/session/api.ts";
import { accountsQuery } from "../queries.ts";

const PURPOSES = Object.entries(TOKEN_PURPOSES) as [TokenPurpose, string][];

/** What is asked for, as it stands in the form. */
interface Asked {
  readonly name: string;
  readonly purposes: readonly TokenPurpose[];
  readonly group: string;
  readonly lastDay: string;
}
const NOTHING: Asked = { name: "", purposes: [], group: "", lastDay: "" };

function Purposes({ asked, onAsked }: { asked: Asked; onAsked: (asked: Asked) => void }) {
  return (
    <fieldset className="flex flex-wrap gap-x-4">
      <legend className="sr-only">What it may do</legend>
      {PURPOSES.map(([purpose, words]) => (
        <label key={purpose} className="flex min-h-[24px] items-center gap-1.5">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={asked.purposes.includes(purpose)}
            onChange={({ target }) =>
              onAsked({
                ...asked,
                purposes: PURPOSES.map(([each]) => each).filter((each) =>
                  each === purpose ? target.checked : asked.purposes.includes(each),
                ),
              })
            }
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

function Groups({ value, onGroup }: { value: string; onGroup: (group: string) => void }) {
  const { data } = useQuery(accountsQuery);
  return (
    <select
      className="select select-sm w-56"
      aria-label="Of which group"
      value={value}
      onChange={({ target }) => onGroup(target.value)}
    >
      <option value="">the whole house</option>
      {inTreeOrder(data?.groups ?? []).map(({ programme, depth }) => (
        <option key={programme.id} value={programme.id}>
          {"\u2003".repeat(depth)}
          {programme.name}
        </option>
      ))}
    </select>
  );
}

/** What is missing before a token can be made; `null` where nothing is. */
function missing({ name, purposes }: Asked): string | null {
  if (name.trim() === "") return "Name the system that will use it.";
  return purposes.length === 0 ? "Select what it may do." : null;
}

/** Makes a token, for what it may do, of which group, until when; it is told once, below. */
export function NewToken() {
  const client = useQueryClient();
  const [asked, setAsked] = useState(NOTHING);
  const make = useMutation({
    mutationFn: ({ name, purposes, group, lastDay }: Asked) =>
      call("POST /api/tokens", {
        body: { name, purposes: [...purposes], group: group || null, lastDay: lastDay || null },
      }),
    onSuccess: () => {
      setAsked(NOTHING);
      void client.invalidateQueries({ queryKey: tokensQuery.queryKey });
    },
  });
  const fault = missing(asked);
  return (
    <form
      aria-label="A new token"
      className="mt-4 flex max-w-3xl flex-col gap-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(asked);
      }}
    >
      <h2 className="text-base">A new token</h2>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <input
          className="input input-sm w-64"
          aria-label="Which system"
          placeholder="which system"
          value={asked.name}
          onChange={({ target }) => setAsked({ ...asked, name: target.value })}
        />
        may
        <Purposes asked={asked} onAsked={setAsked} />
      </div>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-2">
        of
        <Groups value={asked.group} onGroup={(group) => setAsked({ ...asked, group })} />
        until
        <DateField
          small
          label="Last day of the token"
          value={asked.lastDay}
          onDate={(lastDay) => setAsked({ ...asked, lastDay })}
        />
        <span className="muted">{asked.lastDay === "" && "it is revoked"}</span>
        <button className="btn btn-sm ml-2" disabled={make.isPending || fault !== null}>
          Make a token
        </button>
        {fault !== null && asked !== NOTHING && <span className="muted">{fault}</span>}
      </div>
      {make.error !== null && <Failure error={make.error} />}
      {make.data !== undefined && (
        <p className="my-2 border-l-4 border-accent pl-3" role="status">
          The token, told this once: <code className="break-all select-all">{make.data.token}</code>
        </p>
      )}
    </form>
  );
}
