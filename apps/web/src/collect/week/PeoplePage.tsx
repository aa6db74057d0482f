import type { PeopleWeek } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { dateWords } from "../../shared/words/words.ts";
import { peopleWeekQuery } from "../queries.ts";
import { isMissing } from "./sheetWords.ts";
import { WeekSteps } from "../WeekSteps.tsx";
import { todayHere } from "../../shared/words/today.ts";
import { columnsOf } from "./peopleColumns.tsx";
import { PeopleActions } from "./PeopleActions.tsx";

function People({ week, onGo }: { week: PeopleWeek; onGo: (date: string) => void }) {
  const [params, put] = useAddress();
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const only = params.get("show") === "missing";
  const lines = useMemo(() => (only ? week.people.filter(isMissing) : week.people), [week, only]);
  const columns = useMemo(
    () =>
      columnsOf(week.from, chosen, (id, on) =>
        setChosen(new Set(on ? [...chosen, id] : [...chosen].filter((other) => other !== id))),
      ),
    [week.from, chosen],
  );
  const missing = week.people.filter(isMissing);
  const here = lines.filter(({ id }) => chosen.has(id));
  return (
    <div className="page">
      <WeekSteps title="People’s weeks" from={week.from} onGo={onGo}>
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={only}
            onChange={(event) => put({ show: event.target.checked ? "missing" : null })}
          />
          only the {missing.length} missing
        </label>
        <button
          type="button"
          className="btn btn-xs"
          disabled={lines.length === 0}
          onClick={() => setChosen(here.length === lines.length ? new Set() : new Set(lines.map(({ id }) => id)))}
        >
          {here.length === lines.length && lines.length > 0 ? "Select none" : "Select all"}
        </button>
      </WeekSteps>
      {here.length > 0 && <PeopleActions week={week} chosen={here} onDone={() => setChosen(new Set())} />}
      <DataTable
        name="People’s weeks"
        rows={lines}
        columns={columns}
        rowKey={({ id }) => id}
        totalName="All"
        empty={
          only
            ? `Everyone has sent or booked the week of ${dateWords(week.from)}.`
            : "Nobody works in your projects yet. People come into a plan under Resources."
        }
      />
    </div>
  );
}

/** Everyone's week for those who answer for them: what was expected, planned and booked, and who is missing. */
export function PeoplePage() {
  const [params, put] = useAddress();
  const date = params.get("date") ?? todayHere();
  return (
    <Loaded query={useQuery(peopleWeekQuery(date))}>
      {(week) => <People key={week.from} week={week} onGo={(to) => put({ date: to })} />}
    </Loaded>
  );
}
