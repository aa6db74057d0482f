import { HOOK_EVENTS, type Hooks as HookList } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { countWords, momentWords } from "../../shared/words/words.ts";
import { EndFirst } from "./fields.tsx";
import { HookFates } from "./HookFates.tsx";
import { NewHook } from "./NewHook.tsx";
import { hooksQuery } from "./queries.ts";

type Hook = HookList[number];

const listed = new Intl.ListFormat("en", { type: "disjunction" });

/** What a system is told of, and of which group, in a sentence. */
const reachWords = ({ events, group }: Hook): string =>
  `is told when ${listed.format(events.map((each) => HOOK_EVENTS[each]))}, ${
    group === null ? "of the whole house" : `of ${group.name} and below`
  }`;

/** How its calls stand, in a few words. */
function standingWords({ waiting, failed, takenAt }: Hook): string {
  const parts = [
    takenAt === null ? "nothing taken yet" : `last taken ${momentWords(takenAt)}`,
    ...(waiting > 0 ? [`${waiting} waiting`] : []),
    ...(failed > 0 ? [`${failed} given up`] : []),
  ];
  return parts.join(", ");
}

function HookLine({ hook }: { hook: Hook }) {
  const client = useQueryClient();
  const [isOpen, setOpen] = useState(false);
  const [isAsked, ask] = useState(false);
  const act = useMutation({
    mutationFn: (what: "trial" | "end") =>
      what === "trial"
        ? call("POST /api/webhooks/:webhook/trial", { params: { webhook: hook.id } })
        : call("DELETE /api/webhooks/:webhook", { params: { webhook: hook.id } }),
    onSuccess: (_done, what) => {
      if (what === "trial") setOpen(true);
      else toast(`${hook.name} is called no more; what was waiting for it is dropped.`);
    },
    onError: (error) => toast.error(error.message),
    onSettled: () => client.invalidateQueries({ queryKey: hooksQuery.queryKey }),
  });
  return (
    <li className="border-b rule py-1">
      <div className="flex items-center gap-2">
        <span className="min-w-0 flex-1">
          <span className="font-semibold">{hook.name}</span> {reachWords(hook)}
          <span className={`block truncate ${hook.failed > 0 ? "adverse" : "muted"}`} title={hook.url}>
            {standingWords(hook)} · {hook.url}
          </span>
        </span>
        <button
          type="button"
          className="btn btn-xs"
          aria-expanded={isOpen}
          aria-label={`Calls to ${hook.name}`}
          onClick={() => setOpen(!isOpen)}
        >
          Calls
        </button>
        <button
          type="button"
          className="btn btn-xs"
          disabled={act.isPending}
          aria-label={`Try a call to ${hook.name}`}
          onClick={() => act.mutate("trial")}
        >
          Try
        </button>
        <button
          type="button"
          className="btn btn-xs"
          disabled={act.isPending}
          aria-label={`Call ${hook.name} no more`}
          onClick={() => ask(true)}
        >
          Remove
        </button>
      </div>
      {isOpen && <HookFates webhook={hook.id} />}
      {isAsked && (
        <EndFirst
          title={`The webhook of ${hook.name}`}
          words="Remove it"
          onEnd={() => act.mutate("end")}
          onClose={() => ask(false)}
        >
          It is called no more;{" "}
          {hook.waiting === 0 ? "nothing waits" : countWords(hook.waiting, "call waits", "calls wait")} for it now
          {hook.waiting === 0 ? "" : ", which would be dropped"}, and what became of earlier ones is forgotten.
        </EndFirst>
      )}
    </li>
  );
}

/** Other systems that are called when something happens, and what became of the calls. */
export function Hooks() {
  const query = useQuery(hooksQuery);
  return (
    <section aria-label="Webhooks" className="pt-8">
      <h2 className="text-xl">Webhooks</h2>
      <p className="muted max-w-prose text-sm">
        Another system is called with POST and JSON as something happens, signed as Standard Webhooks says. A call that
        is not taken is made again with growing pauses for over a day; it bears the same webhook-id each time.
      </p>
      <Loaded query={query}>
        {(hooks) => (
          <ul className="max-w-5xl pt-2 text-sm">
            {hooks.map((hook) => (
              <HookLine key={hook.id} hook={hook} />
            ))}
            {hooks.length === 0 && <li className="muted py-1">No other system is called yet.</li>}
          </ul>
        )}
      </Loaded>
      <NewHook />
    </section>
  );
}
