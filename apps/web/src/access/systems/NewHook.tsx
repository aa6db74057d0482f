import { HOOK_EVENTS, hookUrlFault, type HookEvent } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { call } from "../../shared/session/api.ts";
import { Checks, OfGroup, ToldOnce } from "./fields.tsx";
import { hooksQuery } from "./queries.ts";

/** What is asked for, as it stands in the form. */
interface Asked {
  readonly name: string;
  readonly url: string;
  readonly events: readonly HookEvent[];
  readonly group: string;
}
const NOTHING: Asked = { name: "", url: "", events: [], group: "" };

/** What is missing before a system can be called; `null` where nothing is. */
function missing({ name, url, events }: Asked): string | null {
  if (name.trim() === "") return "Name the system that is called.";
  return hookUrlFault(url.trim()) ?? (events.length === 0 ? "Select what it is told of." : null);
}

/** Has another system called: where, of what, of which group; what signs the calls is told once, below. */
export function NewHook() {
  const client = useQueryClient();
  const [asked, setAsked] = useState(NOTHING);
  const make = useMutation({
    mutationFn: ({ name, url, events, group }: Asked) =>
      call("POST /api/webhooks", { body: { name, url, events: [...events], group: group || null } }),
    onSuccess: () => {
      setAsked(NOTHING);
      void client.invalidateQueries({ queryKey: hooksQuery.queryKey });
    },
  });
  const fault = missing(asked);
  return (
    <form
      aria-label="A new webhook"
      className="mt-4 flex max-w-3xl flex-col gap-2 text-sm"
      onSubmit={(event) => {
        event.preventDefault();
        make.mutate(asked);
      }}
    >
      <h3 className="text-base">A new webhook</h3>
      <div className="flex flex-wrap items-center gap-2">
        <input
          className="input input-sm w-48"
          aria-label="Which system is called"
          placeholder="which system"
          value={asked.name}
          onChange={({ target }) => setAsked({ ...asked, name: target.value })}
        />
        at
        <input
          className="input input-sm min-w-64 flex-1"
          aria-label="Address that is called"
          placeholder="https://systems.example.org/hooks"
          inputMode="url"
          value={asked.url}
          onChange={({ target }) => setAsked({ ...asked, url: target.value })}
        />
      </div>
      <Checks
        legend="What it is told of"
        choices={HOOK_EVENTS}
        chosen={asked.events}
        onChosen={(events) => setAsked({ ...asked, events })}
      />
      <div className="flex flex-wrap items-center gap-2">
        of
        <OfGroup value={asked.group} onGroup={(group) => setAsked({ ...asked, group })} />
        <button className="btn btn-sm ml-2" disabled={make.isPending || fault !== null}>
          Make a webhook
        </button>
        {fault !== null && asked !== NOTHING && <span className="muted">{fault}</span>}
      </div>
      {make.error !== null && <Failure error={make.error} />}
      {make.data !== undefined && <ToldOnce what="The secret that signs its calls" value={make.data.secret} />}
    </form>
  );
}
