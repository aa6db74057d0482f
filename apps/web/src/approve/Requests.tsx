import type { WhatIf } from "@chronometra/contract";
import { Link } from "react-router";
import { momentWords } from "../shared/words/words.ts";
import { DecideRequest } from "./DecideRequest.tsx";
import { useRestore } from "./useRestore.ts";
import { stateWords } from "./words/whatIfWords.ts";

/** What is or was tried beside a plan, and the change requests that came of it. */
export function WhatIfs({ list }: { list: readonly WhatIf[] }) {
  const restore = useRestore();
  if (list.length === 0)
    return (
      <p className="muted py-2">Nothing was tried beside this plan yet. “What if” on the plan’s page begins a copy.</p>
    );
  return (
    <ul className="text-sm">
      {list.map((each) => (
        <li key={each.id} className="border-b rule py-1.5">
          {each.state === "open" || each.state === "sentBack" || each.state === "asked" ? (
            <Link className="font-semibold underline" to={`/projects/${each.project}/whatif/${each.id}`}>
              {each.name}
            </Link>
          ) : (
            <span className="font-semibold">{each.name}</span>
          )}{" "}
          <span className="muted">
            by {each.by}, {momentWords(each.at)}: {stateWords(each)}
          </span>
          {each.mayRestore && (
            <>
              {" "}
              <button
                type="button"
                className="btn btn-xs"
                disabled={restore.isPending}
                aria-label={`Restore ${each.name}`}
                onClick={() => restore.mutate(each.id)}
              >
                Restore
              </button>
            </>
          )}
          {each.reason !== null && each.state !== "asked" && <span> “{each.reason}”</span>}
          {each.state === "asked" && <DecideRequest request={each} />}
        </li>
      ))}
    </ul>
  );
}
