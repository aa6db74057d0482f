import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import type { ReportingCalendar as Calendar } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { DateField } from "../shared/fields/DateField.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { dateWords } from "../shared/words/words.ts";
import { datesAhead, RHYTHMS, type Rhythm } from "./datesAhead.ts";
import { calendarQuery } from "./queries.ts";

type Planned = { readonly dataDate: string; readonly issueBy: string };

/** One period; one that is planned is changed or taken out where it stands. */
function PeriodLine({
  period,
  editable,
  onReplace,
}: {
  period: Calendar["periods"][number];
  editable: boolean;
  onReplace: (by: Planned | null) => void;
}) {
  return (
    <tr className={period.state === "open" ? "font-semibold" : ""}>
      <td className="num figure">{period.number}</td>
      <td className="whitespace-nowrap">{dateWords(period.from)}</td>
      <td className="whitespace-nowrap">
        {editable ? (
          <DateField
            label={`Data date of period ${period.number}`}
            small
            value={period.dataDate}
            onDate={(dataDate) =>
              onReplace({
                dataDate,
                issueBy: period.issueBy < dataDate ? `${dataDate}T12:00` : period.issueBy,
              })
            }
          />
        ) : (
          dateWords(period.dataDate)
        )}
      </td>
      <td className="whitespace-nowrap">
        {editable ? (
          <DateField
            label={`Day of issue of period ${period.number}`}
            small
            value={period.issueBy.slice(0, 10)}
            onDate={(day) => onReplace({ dataDate: period.dataDate, issueBy: `${day}${period.issueBy.slice(10)}` })}
          />
        ) : (
          `${dateWords(period.issueBy.slice(0, 10))}, ${period.issueBy.slice(11)}`
        )}
      </td>
      <td className="num">{period.state === "planned" ? "" : period.issued}</td>
      <td className="num">{period.state === "planned" ? "" : period.locked}</td>
      <td>
        {editable && <RemoveButton what={`period ${period.number}`} onRemove={() => onReplace(null)} />}
        {period.state === "open" && <span className="muted text-sm">open</span>}
      </td>
    </tr>
  );
}

function Rows({ calendar, mayPlan }: { calendar: Calendar; mayPlan: boolean }) {
  const client = useQueryClient();
  const planned: Planned[] = calendar.periods
    .filter(({ state }) => state === "planned")
    .map(({ dataDate, issueBy }) => ({ dataDate, issueBy }));
  const last = calendar.periods.at(-1)?.dataDate ?? null;
  const [rhythm, setRhythm] = useState<Rhythm>("month");
  const write = useMutation({
    mutationFn: (periods: readonly Planned[]) => call("PUT /api/periods/planned", { body: { periods: [...periods] } }),
    onSuccess: (_calendar, periods) => {
      const before = planned;
      toast(`${periods.length} periods planned ahead.`, {
        action: {
          label: "Undo",
          onClick: () =>
            void call("PUT /api/periods/planned", { body: { periods: before } }).then(
              () => client.invalidateQueries({ queryKey: ["period"] }),
              (error: Error) => toast.error(error.message),
            ),
        },
      });
      void client.invalidateQueries({ queryKey: ["period"] });
    },
  });
  const replace = (at: number, period: Planned | null): void =>
    write.mutate(planned.flatMap((each, i) => (i !== at ? [each] : period === null ? [] : [period])));
  const firstPlanned = calendar.periods.length - planned.length;
  return (
    <>
      <table className="ledger panel-table" aria-label="Reporting calendar">
        <thead>
          <tr>
            <th className="num">Period</th>
            <th>From</th>
            <th>Data date</th>
            <th>Issue due</th>
            <th className="num">Issued</th>
            <th className="num">Locked</th>
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {calendar.periods.length === 0 && (
            <tr>
              <td colSpan={7} className="muted">
                No period yet. “Open next period” begins the first one.
              </td>
            </tr>
          )}
          {calendar.periods.slice(-9).map((period) => {
            const at = calendar.periods.indexOf(period) - firstPlanned;
            return (
              <PeriodLine
                key={period.number}
                period={period}
                editable={period.state === "planned" && mayPlan}
                onReplace={(by) => replace(at, by)}
              />
            );
          })}
        </tbody>
      </table>
      {mayPlan && last !== null && (
        <form
          className="mt-2 flex flex-wrap items-center gap-2 text-sm"
          onSubmit={(event) => {
            event.preventDefault();
            write.mutate([...planned, ...datesAhead(last, rhythm, 6)]);
          }}
        >
          Plan six more, each
          <select
            className="select select-sm w-52"
            aria-label="How often"
            value={rhythm}
            onChange={(event) => setRhythm(event.target.value as Rhythm)}
          >
            {Object.entries(RHYTHMS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </select>
          <button className="btn btn-sm" disabled={write.isPending}>
            Plan ahead
          </button>
        </form>
      )}
      {write.error !== null && <Failure error={write.error} />}
    </>
  );
}

/** Periods that were, the open one, and those to come. */
export function ReportingCalendar({ mayPlan }: { mayPlan: boolean }) {
  const query = useQuery(calendarQuery);
  return (
    <section aria-label="The reporting calendar" className="pt-6">
      <h2 className="text-base">The reporting calendar</h2>
      <Loaded query={query}>{(calendar) => <Rows calendar={calendar} mayPlan={mayPlan} />}</Loaded>
    </section>
  );
}
