import type { PlanThen } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { useProject } from "../../project/useProject.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { dateWords, momentWords } from "../../shared/words/words.ts";
import { planThenQuery } from "../queries.ts";
import { ActivityFacts } from "../read/ActivityFacts.tsx";
import { PlanLanes } from "../read/PlanLanes.tsx";
import { ReadingTools } from "../read/ReadingTools.tsx";
import { useReading } from "../read/useReading.ts";
import { BringBack } from "./BringBack.tsx";

const PARTS = ["all", "deadlines"] as const;

function Then({ then }: { then: PlanThen }) {
  const { id, mayEdit, words } = useProject();
  const { params, put, part, rows, folded, chosen, onFold, onChoose } = useReading(then.activities);
  const [bringing, setBringing] = useState(false);
  const { revision, at, by, label, newest, dataDate } = then;
  const activity = then.activities.find((each) => each.id === chosen);
  return (
    <div className="flex h-full min-h-0 flex-col px-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-2">
        <h2 className="text-lg">
          As it was at revision {revision} <span className="muted text-base font-normal">of {newest}</span>
        </h2>
        <p className="muted min-w-0 text-sm break-words">
          {momentWords(at)}, {by}: {label}
          {dataDate !== null && `; data date ${dateWords(dataDate)}`}
        </p>
        <span className="ml-auto flex flex-wrap gap-2">
          <Link className="btn btn-sm" to={`/projects/${id}/compare?from=revision-${revision}&to=plan`}>
            Compare with now
          </Link>
          {mayEdit && revision < newest && (
            <button type="button" className="btn btn-sm" onClick={() => setBringing(true)}>
              Bring back …
            </button>
          )}
          <ReadingTools parts={PARTS} {...{ params, put, part }} />
        </span>
      </div>
      <div className="flex min-h-0 flex-1 max-lg:flex-col">
        <PlanLanes plan={then} {...{ rows, folded, chosen, onFold, onChoose }} />
        {activity !== undefined && (
          <aside
            aria-label={`About ${activity.name}`}
            className="min-h-0 w-80 shrink-0 overflow-auto border-l rule px-3 text-[13px] max-lg:w-full max-lg:border-l-0"
          >
            <h3 className="py-2 text-base break-words">{activity.name}</h3>
            <ActivityFacts activity={activity} words={words} />
          </aside>
        )}
      </div>
      {bringing && <BringBack project={id} revision={revision} onClose={() => setBringing(false)} />}
    </div>
  );
}

/** A plan as it was at a revision: looked at, compared with now, or brought back. */
export function ThenPage() {
  const { id } = useProject();
  const query = useQuery(planThenQuery(id, Number(useParams()["revision"])));
  return <Loaded query={query}>{(then) => <Then key={then.revision} then={then} />}</Loaded>;
}
