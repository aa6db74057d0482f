import { HOOK_EVENTS, TRIAL, type HookCalls } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { countWords, momentWords } from "../../shared/words/words.ts";
import { hookCallsQuery, hooksQuery } from "./queries.ts";

type Call = HookCalls[number];

/** What became of a call, in words. */
function fateWords({ state, tries, nextAt, takenAt, why }: Call): string {
  const tried = tries === 0 ? "" : `, tried ${countWords(tries, "time", "times")}: ${why ?? "no answer yet"}`;
  if (state === "taken") return `taken ${momentWords(takenAt!)}${tries > 1 ? `, at try ${tries}` : ""}`;
  if (state === "sending") return `on its way, try ${tries}`;
  return state === "failed" ? `given up${tried}` : `waits until ${momentWords(nextAt!)}${tried}`;
}

const whatWords = ({ event, project }: Call): string =>
  event === TRIAL ? "a trial" : `${HOOK_EVENTS[event]}${project === null ? "" : ` in ${project}`}`;

/** The last calls to a system, and what became of each. */
export function HookFates({ webhook }: { webhook: string }) {
  const client = useQueryClient();
  const query = useQuery(hookCallsQuery(webhook));
  const again = useMutation({
    mutationFn: (id: string) =>
      call("POST /api/webhooks/:webhook/calls/:call/again", { params: { webhook, call: id } }),
    onError: (error) => toast.error(error.message),
    onSettled: () => client.invalidateQueries({ queryKey: hooksQuery.queryKey }),
  });
  return (
    <Loaded query={query}>
      {(calls) => (
        <ul className="pb-2 pl-4" aria-label="Calls">
          {calls.map((each) => (
            <li key={each.id} className="flex min-h-[26px] items-center gap-3 border-b rule">
              <span className="w-64 shrink-0 truncate">{whatWords(each)}</span>
              <span className="muted w-36 shrink-0">{momentWords(each.madeAt)}</span>
              <span className={`min-w-0 flex-1 ${each.state === "failed" ? "adverse" : ""}`}>{fateWords(each)}</span>
              {(each.state === "failed" || (each.state === "waiting" && each.tries > 0)) && (
                <button
                  type="button"
                  className="btn btn-xs"
                  disabled={again.isPending}
                  onClick={() => again.mutate(each.id)}
                >
                  Call again now
                </button>
              )}
            </li>
          ))}
          {calls.length === 0 && <li className="muted py-1">Nothing has been told yet.</li>}
        </ul>
      )}
    </Loaded>
  );
}
