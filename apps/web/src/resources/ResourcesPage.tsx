import { REGISTER_TABLES, type PlanView, type RegisterTable } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { useSearchParams } from "react-router";
import { planValue } from "../plan/engine/planValue.ts";
import { useProject } from "../project/useProject.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { CalendarsPart } from "./calendars/CalendarsPart.tsx";
import { CategoriesPart, TeamsPart } from "./ListsPart.tsx";
import { OwnFieldsPart } from "./OwnFieldsPart.tsx";
import { MeetingsPart } from "./MeetingsPart.tsx";
import { PeoplePart } from "./PeoplePart.tsx";
import { FromRegister } from "./register/FromRegister.tsx";
import { planQuery, sharedQuery } from "./stored/queries.ts";
import { usePlanChange } from "./stored/usePlanChange.ts";

const PARTS = [
  { id: "calendars", name: "Calendars", Part: CalendarsPart },
  { id: "people", name: "People", Part: PeoplePart },
  { id: "teams", name: "Teams", Part: TeamsPart },
  { id: "categories", name: "Cost categories", Part: CategoriesPart },
  { id: "fields", name: "Own fields", Part: OwnFieldsPart },
  { id: "meetings", name: "Meetings", Part: MeetingsPart },
] as const;

const isRegistered = (part: string): part is RegisterTable => (REGISTER_TABLES as readonly string[]).includes(part);

function Parts({ view }: { view: PlanView }) {
  const [params, setParams] = useSearchParams();
  const { data: use } = useQuery(sharedQuery(view.id));
  const plan = useMemo(() => planValue(view), [view]);
  const change = usePlanChange(view);
  const [open, setOpen] = useState(false);
  const part = PARTS.find(({ id }) => id === params.get("part")) ?? PARTS[0];
  return (
    <div className="page">
      <nav aria-label="Resources" className="mb-3 flex gap-4 text-sm">
        {PARTS.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            aria-current={part.id === id ? "page" : undefined}
            className={`cursor-pointer border-b-2 py-0.5 ${part.id === id ? "border-accent font-semibold" : "border-transparent muted"}`}
            onClick={() => setParams({ part: id }, { replace: true })}
          >
            {name}
          </button>
        ))}
        {view.mayEdit && isRegistered(part.id) && (
          <button type="button" className="btn btn-xs ml-auto" onClick={() => setOpen(true)}>
            From the register …
          </button>
        )}
      </nav>
      {open && isRegistered(part.id) && (
        <FromRegister project={view.id} table={part.id} onClose={() => setOpen(false)} />
      )}
      <part.Part view={view} plan={plan} use={use} change={change} />
    </div>
  );
}

/** What a plan works with: calendars, people, teams, cost categories and fields of its own. */
export function ResourcesPage() {
  const { id } = useProject();
  return <Loaded query={useQuery(planQuery(id))}>{(view) => <Parts view={view} />}</Loaded>;
}
