import type { OwnPlan } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { PLAN_PARTS } from "../../plan/read/planLanes.ts";
import { PlanLanes } from "../../plan/read/PlanLanes.tsx";
import { ReadingTools } from "../../plan/read/ReadingTools.tsx";
import { useReading } from "../../plan/read/useReading.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { dateWords } from "../../shared/words/words.ts";
import { TalkButton } from "../../talk/TalkButton.tsx";
import { AboutOwn } from "./AboutOwn.tsx";
import { ownPlanQuery } from "./queries.ts";

function Plan({ plan }: { plan: OwnPlan }) {
  const { params, put, part, rows, folded, chosen, onFold, onChoose } = useReading(plan.activities);
  const activity = plan.activities.find(({ id }) => id === chosen);
  return (
    <div className="flex min-h-0 flex-1 flex-col px-4">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 py-2">
        <p className="text-sm">
          <Link className="link-quiet" to="/desk/plans">
            Plans of your work
          </Link>
        </p>
        <h1 className="min-w-0 text-xl break-words">{plan.name}</h1>
        <p className="muted text-sm">
          {plan.code}, {plan.manager}
          {plan.dataDate !== null && `, data date ${dateWords(plan.dataDate)}`}
          {plan.isClosed && ", closed"}
        </p>
        <TalkButton place={{ about: "project", project: plan.id, aboutId: "" }} of={plan.name} />
        <span className="ml-auto flex gap-2">
          <ReadingTools parts={PLAN_PARTS} {...{ params, put, part }} />
        </span>
      </div>
      <div className="flex min-h-0 flex-1 max-lg:flex-col">
        <PlanLanes {...{ plan, rows, folded, chosen, onFold, onChoose }} />
        {activity !== undefined && (
          <AboutOwn key={activity.id} plan={plan} activity={activity} onClose={() => put({ at: null })} />
        )}
      </div>
    </div>
  );
}

/** The plan of a project for whoever works in it: read, not changed. */
export function OwnPlanPage() {
  const project = useParams()["project"]!;
  const query = useQuery(ownPlanQuery(project));
  return <Loaded query={query}>{(plan) => <Plan plan={plan} />}</Loaded>;
}
