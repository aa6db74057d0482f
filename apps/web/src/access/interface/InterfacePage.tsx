import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { Refused } from "../../shared/dialogs/Refused.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { call } from "../../shared/session/api.ts";
import { holds, useMe } from "../../shared/session/session.ts";
import { CallPart } from "./CallPart.tsx";
import { callsOf, narrowed, type ApiCall, type OpenApi } from "./openApi.ts";

const interfaceQuery = {
  queryKey: ["interface"],
  queryFn: async (): Promise<OpenApi> => (await call("GET /api/openapi.json")) as unknown as OpenApi,
  staleTime: Infinity,
};

const LINE = "flex min-h-[26px] w-full cursor-pointer items-baseline gap-2 border-b rule text-left hover:bg-base-200";

function CallLine({ each, isChosen, onChoose }: { each: ApiCall; isChosen: boolean; onChoose: () => void }) {
  const line = useRef<HTMLLIElement>(null);
  // By a link one comes to a call far down.
  useEffect(() => {
    if (isChosen) line.current?.scrollIntoView?.({ block: "nearest" });
  }, [isChosen]);
  return (
    <li ref={line}>
      <button
        type="button"
        aria-current={isChosen ? "true" : undefined}
        className={`${LINE} ${isChosen ? "bg-base-200 font-semibold" : ""}`}
        onClick={onChoose}
      >
        <span className="figure w-14 shrink-0 text-xs">{each.method}</span>
        <span className="min-w-0 flex-1">
          <span className="block break-all">{each.path.replace("/api", "")}</span>
          <span className="muted block font-normal">{each.summary}</span>
        </span>
      </button>
    </li>
  );
}

function Calls({ document }: { document: OpenApi }) {
  const [params, put] = useAddress();
  const [words, setWords] = useState("");
  const calls = useMemo(() => callsOf(document), [document]);
  const shown = useMemo(() => narrowed(calls, words), [calls, words]);
  const chosen = [...calls.values()].flat().find(({ operationId }) => operationId === params.get("call"));
  return (
    <div className="flex min-h-0 flex-1 gap-6 text-sm max-md:flex-col">
      <div className="flex w-96 shrink-0 flex-col max-md:max-h-72 max-md:w-full">
        <input
          type="search"
          className="input input-sm mb-2 w-64"
          aria-label="Words of a call"
          placeholder="words of a call"
          value={words}
          onChange={({ target }) => setWords(target.value)}
        />
        <nav aria-label="Calls" className="min-h-0 flex-1 overflow-auto" tabIndex={0}>
          {[...shown].map(([place, all]) => (
            <section key={place} aria-label={place} className="pb-3">
              <h2 className="text-base">{place}</h2>
              <ul>
                {all.map((each) => (
                  <CallLine
                    key={each.operationId}
                    each={each}
                    isChosen={each === chosen}
                    onChoose={() => put({ call: each.operationId }, "push")}
                  />
                ))}
              </ul>
            </section>
          ))}
          {shown.size === 0 && <p className="muted">No call has these words.</p>}
        </nav>
      </div>
      <div className="min-w-0 flex-1 overflow-auto" tabIndex={0} role="region" aria-label="The selected call">
        {chosen === undefined ? (
          <p className="muted">Select a call to read what it takes and answers, and to try it.</p>
        ) : (
          <CallPart key={chosen.operationId} document={document} chosen={chosen} />
        )}
      </div>
    </div>
  );
}

/** The HTTP interface: every call to read, and to try as whoever is signed in. */
export function InterfacePage() {
  const me = useMe();
  const query = useQuery(interfaceQuery);
  if (!holds(me, "administrator")) return <Refused who="administrators" />;
  return (
    <div className="page flex h-full flex-col">
      <h1 className="text-xl">Interface</h1>
      <p className="muted max-w-prose pb-2 text-sm">
        All that the pages do is done by these calls, and other systems make them too. The same stands as OpenAPI 3.1 at{" "}
        <a href="/api/openapi.json">/api/openapi.json</a>, for programs that make clients of it.
      </p>
      <Loaded query={query}>{(document) => <Calls document={document} />}</Loaded>
    </div>
  );
}
