import { MAIL_WAY_WORDS, MAIL_WAYS, NOTICE_KINDS, NOTICE_WORDS, type Telling } from "@chronometra/contract";
import { useIsMutating, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { useMe } from "../shared/session/session.ts";
import { call } from "../shared/session/api.ts";
import { tellingQuery } from "./queries.ts";
import { useLocation } from "react-router";

const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"];
const NIGHT = { from: "20:00", until: "07:00" };

type Change = (change: Partial<Telling>) => void;

function Ways({ telling, change }: { telling: Telling; change: Change }) {
  return (
    <table className="mt-1 text-sm">
      <thead>
        <tr className="muted text-left">
          <th className="pr-4 font-normal">What happens</th>
          {MAIL_WAYS.map((way) => (
            <th key={way} className="px-3 text-center font-normal">
              {MAIL_WAY_WORDS[way]}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {NOTICE_KINDS.map((kind) => (
          <tr key={kind} className="border-b rule" role="radiogroup" aria-label={NOTICE_WORDS[kind][0]}>
            <th scope="row" className="py-1 pr-4 text-left font-normal">
              {NOTICE_WORDS[kind][0]}
              <span className="muted block text-xs">{NOTICE_WORDS[kind][1]}</span>
            </th>
            {MAIL_WAYS.map((way) => (
              <td key={way} className="text-center">
                <label className="inline-flex min-h-[26px] min-w-[26px] cursor-pointer items-center justify-center">
                  <input
                    type="radio"
                    name={`way-${kind}`}
                    aria-label={`${NOTICE_WORDS[kind][0]}: ${MAIL_WAY_WORDS[way]}`}
                    checked={telling.ways[kind] === way}
                    onChange={() => change({ ways: { ...telling.ways, [kind]: way } })}
                  />
                </label>
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Hour({ name, value, onChange }: { name: string; value: string; onChange: (time: string) => void }) {
  return (
    <input
      type="time"
      className="input input-sm w-28"
      aria-label={name}
      value={value}
      required
      onChange={(event) => event.target.value !== "" && onChange(event.target.value.slice(0, 5))}
    />
  );
}

function When({ telling, change }: { telling: Telling; change: Change }) {
  const { at, weekday, quiet } = telling;
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-2 gap-y-1 text-sm">
      <span>The day’s mail leaves at</span>
      <Hour name="When the day’s mail leaves" value={at} onChange={(time) => change({ at: time })} />
      <span>the week’s on</span>
      <select
        className="select select-sm w-36"
        aria-label="On which day the week’s mail leaves"
        value={weekday}
        onChange={(event) => change({ weekday: Number(event.target.value) })}
      >
        {WEEKDAYS.map((name, i) => (
          <option key={name} value={i + 1}>
            {name}
          </option>
        ))}
      </select>
      <label className="ml-4 flex min-h-[26px] items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={quiet !== null}
          onChange={(event) => change({ quiet: event.target.checked ? NIGHT : null })}
        />
        no mail between
      </label>
      {quiet !== null && (
        <>
          <Hour name="Quiet from" value={quiet.from} onChange={(from) => change({ quiet: { ...quiet, from } })} />
          <span>and</span>
          <Hour name="Quiet until" value={quiet.until} onChange={(until) => change({ quiet: { ...quiet, until } })} />
        </>
      )}
    </div>
  );
}

const intoSight = (part: HTMLElement | null): void => part?.scrollIntoView();

/** How one is told, and what changes it: seen at once, sent one after the other, also when the page is left. */
function useTelling() {
  const query = useQuery(tellingQuery);
  const client = useQueryClient();
  const { queryKey } = tellingQuery;
  const store = useMutation({
    // One after the other: the last that was said is the last that is stored.
    scope: { id: "telling" },
    mutationFn: (body: Telling) => call("PUT /api/telling", { body, outlivesPage: true }),
    onError: () => client.invalidateQueries({ queryKey }),
  });
  const change: Change = (part) => {
    // An answer on its way would put back what was before.
    void client.cancelQueries({ queryKey });
    const next = { ...client.getQueryData(queryKey)!, ...part };
    client.setQueryData(queryKey, next);
    store.mutate(next);
  };
  const pending = useIsMutating({ predicate: ({ options }) => options.scope?.id === "telling" }) > 0;
  return { query, change, pending, error: store.error };
}

/** Of what someone hears by mail, and when: all of it stands in the inbox anyhow. */
export function TellingPart() {
  const { hash } = useLocation();
  const { timeZone } = useMe();
  const { query, change, pending, error } = useTelling();
  return (
    <section id="told" ref={hash === "#told" ? intoSight : undefined} aria-busy={pending}>
      <h2 className="flex items-baseline gap-3 text-base">
        How you are told
        <span role="status" className="muted text-xs font-normal">
          {pending ? "Saving …" : ""}
        </span>
      </h2>
      <p className="muted max-w-prose text-sm">
        Everything stands in your inbox. By mail you get what you say here, never a message for each thing: what happens
        within ten minutes goes together. Hours are those of {timeZone.replaceAll("_", " ")}.
      </p>
      <Loaded query={query}>
        {(telling) => (
          <>
            <Ways telling={telling} change={change} />
            <When telling={telling} change={change} />
          </>
        )}
      </Loaded>
      {error !== null && <Failure error={error} />}
    </section>
  );
}
