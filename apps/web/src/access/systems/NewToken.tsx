import { TOKEN_PURPOSES, type TokenPurpose } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { tokensQuery } from "../../collect/outside/queries.ts";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { DateField } from "../../shared/fields/DateField.tsx";
import { call } from "../../shared/session/api.ts";
import { Checks, OfGroup, ToldOnce } from "./fields.tsx";

/** What is asked for, as it stands in the form. */
interface Asked {
  readonly name: string;
  readonly purposes: readonly TokenPurpose[];
  readonly group: string;
  readonly lastDay: string;
}
const NOTHING: Asked = { name: "", purposes: [], group: "", lastDay: "" };

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
        <Checks
          legend="What it may do"
          choices={TOKEN_PURPOSES}
          chosen={asked.purposes}
          onChosen={(purposes) => setAsked({ ...asked, purposes })}
        />
      </div>
      <div className="flex flex-wrap items-center gap-x-2 gap-y-2">
        of
        <OfGroup value={asked.group} onGroup={(group) => setAsked({ ...asked, group })} />
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
      {make.data !== undefined && <ToldOnce what="The token" value={make.data.token} />}
    </form>
  );
}
