import type { SharedUse } from "@chronometra/contract";
import type { Calendar, Plan } from "@chronometra/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { useAddress } from "../../shared/page/useAddress.ts";
import { countWords } from "../../shared/words/words.ts";
import { CalendarEditor } from "./CalendarEditor.tsx";
import { newId } from "../stored/newId.ts";
import { planWay } from "../stored/SharedStore.tsx";
import type { PartProps } from "../stored/partProps.ts";

/** How often a calendar of the plan is used: by activities, people and calendars that rest on it. */
function usageOf(plan: Plan, id: string): { activities: number; people: number; bases: number; project: boolean } {
  const count = (rows: Iterable<{ calendar?: string | undefined }>): number =>
    [...rows].filter(({ calendar }) => calendar === id).length;
  return {
    activities: count(plan.activities.values()),
    people: count(plan.people.values()),
    bases: [...plan.calendars.values()].filter(({ base }) => base === id).length,
    project: plan.project.calendar === id,
  };
}

function usageWords({ activities, people, bases, project }: ReturnType<typeof usageOf>): string {
  const words = [
    project ? "the project's own" : "",
    activities > 0 ? countWords(activities, "activity", "activities") : "",
    people > 0 ? countWords(people, "person", "people") : "",
    bases > 0 ? `${countWords(bases, "calendar rests", "calendars rest")} on it` : "",
  ].filter((part) => part !== "");
  return words.length === 0 ? "not used" : words.join(", ");
}

const otherWords = (use: SharedUse | undefined, id: string): string => {
  const others = use?.calendars[id] ?? [];
  return others.length === 0
    ? ""
    : ` · also in ${others.length <= 4 ? others.map(({ code }) => code).join(", ") : countWords(others.length, "other project", "other projects")}`;
};

/** What is done with a calendar as a whole: taken for the project, or removed where nothing uses it. */
function CalendarActs({
  calendar,
  usage,
  change,
}: {
  calendar: Calendar;
  usage: ReturnType<typeof usageOf>;
  change: PartProps["change"];
}) {
  const used = usage.activities + usage.people + usage.bases > 0 || usage.project;
  const tell = async (answer: Promise<string | null>): Promise<void> => {
    const fault = await answer;
    if (fault !== null) toast.error(fault);
  };
  return (
    <p className="mb-2 flex gap-2">
      {!usage.project && (
        <button
          type="button"
          className="btn btn-xs"
          onClick={() =>
            void tell(
              change(
                [{ type: "setProject", set: { calendar: calendar.id } }],
                `The project works by ${calendar.name}.`,
              ),
            )
          }
        >
          Make it the project's own
        </button>
      )}
      {!used && (
        <button
          type="button"
          className="btn btn-xs"
          onClick={() =>
            void tell(
              change([{ type: "removeRow", table: "calendars", key: calendar.id }], `${calendar.name} is removed.`),
            )
          }
        >
          Remove it
        </button>
      )}
    </p>
  );
}

/** The calendars of a plan. */
export function CalendarsPart({ view, plan, use, change }: PartProps) {
  const [params, put] = useAddress();
  const [fresh, setFresh] = useState<Calendar | null>(null);
  const all = [...plan.calendars.values()];
  const chosen =
    fresh ?? plan.calendars.get(params.get("calendar") ?? "") ?? plan.calendars.get(plan.project.calendar)!;
  const choose = (id: string): void => {
    setFresh(null);
    put({ calendar: id });
  };
  const begin = (): void => {
    setFresh({ id: newId("calendar"), name: `Calendar ${all.length + 1}`, base: plan.project.calendar });
  };
  const usage = usageOf(plan, chosen.id);
  return (
    <div className="grid gap-6 lg:grid-cols-[15rem_minmax(0,1fr)]">
      <div>
        <ul aria-label="Calendars">
          {all.map(({ id, name }) => (
            <li key={id} className={`border-b rule ${chosen.id === id ? "bg-base-200" : ""}`}>
              <button
                type="button"
                className="w-full cursor-pointer px-2 py-1 text-left"
                aria-current={chosen.id === id}
                onClick={() => choose(id)}
              >
                <span className="font-semibold">{name}</span>
                <br />
                <span className="muted text-sm">
                  {usageWords(usageOf(plan, id))}
                  {otherWords(use, id)}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {view.mayEdit && (
          <button type="button" className="btn btn-ghost btn-sm mt-1" onClick={begin}>
            <Plus size={14} aria-hidden="true" /> Calendar
          </button>
        )}
      </div>
      <div>
        {view.mayEdit && fresh === null && <CalendarActs calendar={chosen} usage={usage} change={change} />}
        <CalendarEditor
          key={`${JSON.stringify(chosen)} ${fresh === null}`}
          wayOf={(draft, bases) =>
            planWay(view.id, [
              ...bases.map((row) => ({ table: "calendars" as const, row, ifMissing: true })),
              { table: "calendars", row: draft },
            ])
          }
          calendar={chosen}
          isNew={fresh !== null}
          all={all}
          others={fresh === null ? (use?.calendars[chosen.id] ?? []) : []}
          mayEdit={view.mayEdit}
          year={Number((plan.project.dataDate ?? plan.project.start).slice(0, 4))}
          onDone={() => setFresh((now) => (now?.id === chosen.id ? null : now))}
        />
      </div>
    </div>
  );
}
