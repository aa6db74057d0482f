import { formatHours, type Person, leaveOf, worksBy } from "@chronometra/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { amountText } from "../shared/words/amounts.ts";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { newId } from "./stored/newId.ts";
import { PersonEditor } from "./PersonEditor.tsx";
import type { PartProps } from "./stored/partProps.ts";

interface PersonRow {
  readonly person: Person;
  readonly minutes: number;
  readonly activities: number;
  readonly placeholder: boolean;
  readonly calendar: string;
  readonly leave: number;
  readonly teams: string;
  readonly rate: number | null;
  readonly others: number;
}

/** The people of a plan as they are listed, with what they do and where else they work. */
function peopleRows(plan: PartProps["plan"], use: PartProps["use"]): PersonRow[] {
  const today = plan.project.dataDate ?? plan.project.start;
  return [...plan.people.values()].map((person): PersonRow => {
    const own = [...plan.assignments.values()].filter((row) => row.person === person.id);
    const by = worksBy(plan, person);
    const rates = person.rates ?? [];
    return {
      person,
      minutes: own.reduce((sum, { plannedMinutes }) => sum + plannedMinutes, 0),
      activities: new Set(own.map(({ activity }) => activity)).size,
      placeholder: plan.placeholders.has(person.id),
      calendar: by === undefined ? "" : (plan.calendars.get(by)?.name ?? ""),
      leave: leaveOf(plan, person).length,
      teams: [...plan.teams.values()]
        .filter(({ members }) => members.includes(person.id))
        .map(({ name }) => name)
        .join(", "),
      rate: (rates.findLast(({ from }) => from <= today) ?? rates[0])?.perHourMinor ?? null,
      others: use?.people[person.id]?.length ?? 0,
    };
  });
}

/** The columns of that list; a name opens its person. */
function peopleColumns(
  plan: PartProps["plan"],
  chosen: Person | null,
  choose: (id: string) => void,
): readonly Column<PersonRow>[] {
  const digits = plan.project.minorDigits ?? 2;
  return [
    {
      id: "name",
      head: "Name",
      value: ({ person }) => person.name,
      show: ({ person, placeholder }) => (
        <button
          type="button"
          className="link-quiet cursor-pointer"
          aria-current={chosen?.id === person.id}
          onClick={() => choose(person.id)}
        >
          {person.name}
          {placeholder && <span className="undecided"> (to be named)</span>}
        </button>
      ),
    },
    { id: "role", head: "Role", value: ({ person }) => person.role ?? "" },
    { id: "teams", head: "Teams", value: ({ teams }) => teams },
    {
      id: "calendar",
      head: "Works by",
      value: ({ calendar }) => calendar,
      show: ({ calendar }) => (calendar === "" ? <span className="muted">the project's</span> : calendar),
    },
    {
      id: "leave",
      head: "Leave",
      hint: "Entries of leave",
      numeric: true,
      value: ({ leave }) => leave,
      show: ({ leave }) => (leave === 0 ? "" : leave),
    },
    {
      id: "rate",
      head: `${plan.project.currency} an hour`,
      money: () => ({ currency: plan.project.currency, minorDigits: digits }),
      hint: "At the data date",
      numeric: true,
      value: ({ rate }) => rate,
      show: ({ rate }) => (rate === null ? "–" : amountText(rate, digits)),
    },
    { id: "activities", head: "Activities", numeric: true, value: ({ activities }) => activities },
    {
      id: "hours",
      head: "Hours planned",
      numeric: true,
      value: ({ minutes }) => minutes / 60,
      show: ({ minutes }) => formatHours(minutes),
    },
    {
      id: "others",
      head: "Other projects",
      numeric: true,
      value: ({ others }) => others,
      show: ({ others }) => (others === 0 ? "" : others),
    },
  ];
}

/** The people of a plan: a table, and whoever is chosen below it. */
export function PeoplePart({ view, plan, use, change }: PartProps) {
  const [params, put] = useAddress();
  const [fresh, setFresh] = useState<Person | null>(null);
  const chosen = fresh ?? plan.people.get(params.get("person") ?? "") ?? null;
  const choose = (id: string | null): void => {
    setFresh(null);
    put({ person: id });
  };
  /** What was done with someone ends after they may have been left for another: only they are closed. */
  const close = ({ id }: Person): void => {
    setFresh((now) => (now?.id === id ? null : now));
    if (new URLSearchParams(window.location.search).get("person") === id) put({ person: null });
  };
  const begin = (): void => {
    setFresh({ id: newId("person"), name: `Person ${plan.people.size + 1}` });
  };
  const rows = peopleRows(plan, use);
  const columns = peopleColumns(plan, chosen, choose);
  return (
    <div>
      {chosen !== null && (
        <section aria-label={chosen.name} className="mb-4 border-b border-base-content pb-3">
          <div className="mb-1 flex items-center gap-3">
            <h2 className="text-base">{chosen.name}</h2>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => choose(null)}>
              Close
            </button>
          </div>
          <PersonEditor
            key={`${JSON.stringify(chosen)} ${fresh === null}`}
            view={view}
            plan={plan}
            person={chosen}
            isNew={fresh !== null}
            others={fresh === null ? (use?.people[chosen.id] ?? []) : []}
            change={change}
            onDone={() => close(chosen)}
          />
        </section>
      )}
      <DataTable
        name="People of the plan"
        rows={rows}
        columns={columns}
        rowKey={({ person }) => person.id}
        empty="Nobody works on this plan yet."
        tools={
          view.mayEdit && (
            <button type="button" className="btn btn-ghost btn-sm" onClick={begin}>
              <Plus size={14} aria-hidden="true" /> Person
            </button>
          )
        }
      />
      {rows.length === 0 && view.mayEdit && (
        <button type="button" className="btn btn-sm" onClick={begin}>
          Add the first person
        </button>
      )}
    </div>
  );
}
