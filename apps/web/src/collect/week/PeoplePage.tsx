import type { Endings as Answers, PeopleWeek } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useState, type ReactNode } from "react";
import { Link } from "react-router";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import type { Column } from "../../shared/table/column.ts";
import { DataTable } from "../../shared/table/DataTable.tsx";
import { EffectView } from "../../shared/dialogs/EffectView.tsx";
import { Failure, Loaded } from "../../shared/dialogs/Failure.tsx";
import { useAddress } from "../../shared/page/useAddress.ts";
import { countWords, dateWords, momentWords } from "../../shared/words/words.ts";
import { anyOf, timeBehind } from "../../watch/opens.ts";
import { AssumedStarts, Endings } from "../Endings.tsx";
import { peopleWeekQuery, refetchDecided, weeksEffectQuery } from "../queries.ts";
import { isMissing, overUnderWords, sheetWords } from "./sheetWords.ts";
import { shiftDays } from "../weekSums.ts";
import { WeekSteps } from "../WeekSteps.tsx";
import { todayHere } from "../../shared/words/today.ts";

type Line = PeopleWeek["people"][number];
const hours = (minutes: number): string => (minutes === 0 ? "" : formatHours(minutes));

/** A figure of someone's week that opens the rows it is made of. */
const opens = (minutes: number, to: string, tone = ""): ReactNode =>
  minutes === 0 ? (
    ""
  ) : (
    <Link className={`link-quiet ${tone}`} to={to}>
      {hours(minutes)}
    </Link>
  );

function columnsOf(
  week: string,
  chosen: ReadonlySet<string>,
  onChoose: (id: string, on: boolean) => void,
): readonly Column<Line>[] {
  const load = ({ id }: Line): string => `/load?from=${week}&who=${encodeURIComponent(id)}&week=${week}`;
  const booked = ({ id, projects }: Line): string =>
    timeBehind(
      projects.map(({ project }) => project),
      week,
      shiftDays(week, 6),
      anyOf("person", [id]),
    );
  const sum = (pick: (line: Line) => number) => (lines: readonly Line[]) =>
    hours(lines.reduce((total, line) => total + pick(line), 0));
  return [
    {
      id: "tick",
      head: "Select",
      tool: true,
      value: () => null,
      show: ({ id, name }) => (
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          aria-label={`Select ${name}`}
          checked={chosen.has(id)}
          onChange={(event) => onChoose(id, event.target.checked)}
        />
      ),
    },
    {
      id: "name",
      head: "Person",
      value: ({ name }) => name,
      show: ({ name, projects }) => (
        <span
          title={projects
            .map(
              (own) =>
                `${own.name}: ${formatHours(own.postedMinutes + own.waitingMinutes)} booked, ${formatHours(own.plannedMinutes)} planned`,
            )
            .join("\n")}
        >
          {name}
        </span>
      ),
    },
    {
      id: "state",
      head: "Week",
      value: (line) => sheetWords(line),
      show: (line) => (
        <span
          className={
            line.sheet?.state === "approved"
              ? "favourable"
              : line.sheet?.state === "sent"
                ? "undecided"
                : isMissing(line)
                  ? "adverse"
                  : "muted"
          }
        >
          {sheetWords(line)}
        </span>
      ),
    },
    {
      id: "expected",
      is: "minutes",
      head: "Expected",
      hint: "By their calendar, leave taken off",
      numeric: true,
      value: ({ expectedMinutes }) => expectedMinutes,
      show: (line) => opens(line.expectedMinutes, load(line)),
      total: sum(({ expectedMinutes }) => expectedMinutes),
    },
    {
      id: "planned",
      is: "minutes",
      head: "Planned",
      hint: "What the plans ask of them in this week",
      numeric: true,
      value: ({ plannedMinutes }) => plannedMinutes,
      show: (line) => opens(line.plannedMinutes, load(line)),
      total: sum(({ plannedMinutes }) => plannedMinutes),
    },
    {
      id: "posted",
      is: "minutes",
      head: "Accepted",
      numeric: true,
      value: ({ postedMinutes }) => postedMinutes,
      show: (line) => opens(line.postedMinutes, booked(line)),
      total: sum(({ postedMinutes }) => postedMinutes),
    },
    {
      id: "waiting",
      is: "minutes",
      head: "Waiting",
      numeric: true,
      value: ({ waitingMinutes }) => waitingMinutes,
      show: (line) =>
        opens(line.waitingMinutes, `/time?person=${encodeURIComponent(line.name)}&week=${week}`, "undecided"),
      total: sum(({ waitingMinutes }) => waitingMinutes),
    },
    {
      id: "against",
      is: "minutes",
      head: "Against planned",
      numeric: true,
      value: ({ postedMinutes, waitingMinutes, plannedMinutes }) => postedMinutes + waitingMinutes - plannedMinutes,
      show: overUnderWords,
    },
    { id: "projects", head: "On", wraps: true, value: ({ projects }) => projects.map(({ name }) => name).join(", ") },
    {
      id: "reminded",
      head: "Reminded",
      value: ({ remindedAt }) => remindedAt,
      show: ({ remindedAt }) => (remindedAt === null ? "" : momentWords(remindedAt)),
    },
  ];
}

/** What is done with the people chosen: remind them, approve their weeks, or return them. */
function Actions({ week, chosen, onDone }: { week: PeopleWeek; chosen: readonly Line[]; onDone: () => void }) {
  const client = useQueryClient();
  const [word, setWord] = useState("");
  const [reminder, setReminder] = useState("Please send your time of this week; the period is to be issued soon.");
  const params = { date: week.from };
  const people = chosen.map(({ id }) => id);
  const after = (words: string): void => {
    toast(words);
    setWord("");
    onDone();
    refetchDecided(client);
  };
  const remind = useMutation({
    mutationFn: () => call("POST /api/time/:date/reminders", { params, body: { people, words: reminder } }),
    onSuccess: ({ sent, failed }) =>
      after(
        `${countWords(sent, "reminder", "reminders")} sent.${failed.length === 0 ? "" : ` Not reached: ${failed.map(({ to, why }) => `${to} (${why})`).join(", ")}.`}`,
      ),
  });
  const [endings, setEndings] = useState<Answers>({});
  const effect = useQuery({
    ...weeksEffectQuery(
      week.from,
      chosen.filter(({ sheet }) => sheet?.state === "sent").map(({ id }) => id),
      endings,
    ),
    placeholderData: keepPreviousData,
  });
  const isOpen = effect.data?.effects.some(({ asked }) => asked.some(({ answer }) => answer === null)) === true;
  const decide = useMutation({
    mutationFn: (decision: "approve" | "return") =>
      call("POST /api/time/:date/decision", {
        params,
        body: { people, decision, word, seen: effect.data?.reports ?? [], endings },
      }),
    onError: () => void effect.refetch(),
    onSuccess: ({ approved, open }, decision) =>
      after(
        decision === "return"
          ? `${countWords(people.length, "week", "weeks")} returned.`
          : `${countWords(approved.length, "week", "weeks")} approved${open.length === 0 ? "." : `; of ${open.join(", ")} other projects still decide reports.`}`,
      ),
  });
  const sent = chosen.filter(({ sheet }) => sheet?.state === "sent").length;
  const error = remind.error ?? decide.error ?? effect.error;
  return (
    <div className="mb-2 flex flex-wrap items-end gap-x-6 gap-y-2 border-l-4 border-accent pl-3">
      <span className="font-semibold">{countWords(chosen.length, "person", "people")}</span>
      <span className="flex items-end gap-2">
        <label className="flex flex-col text-sm">
          Reminder
          <input
            className="input input-sm w-96"
            value={reminder}
            onChange={(event) => setReminder(event.target.value)}
          />
        </label>
        <button
          type="button"
          className="btn btn-sm"
          disabled={remind.isPending || reminder.trim() === ""}
          onClick={() => remind.mutate()}
        >
          Remind {chosen.length === 1 ? "" : `all ${chosen.length}`}
        </button>
      </span>
      <span className="flex items-end gap-2">
        <label className="flex flex-col text-sm">
          A word
          <input
            className="input input-sm w-48"
            value={word}
            placeholder="needed to return"
            onChange={(event) => setWord(event.target.value)}
          />
        </label>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={
            decide.isPending || sent < chosen.length || effect.data === undefined || effect.isFetching || isOpen
          }
          title={
            isOpen
              ? "Say first what each 100% ends"
              : sent < chosen.length
                ? "Only weeks that were sent can be approved"
                : undefined
          }
          onClick={() => decide.mutate("approve")}
        >
          Approve {countWords(sent, "week", "weeks")}
        </button>
        <button
          type="button"
          className="btn btn-sm"
          disabled={decide.isPending || sent < chosen.length || word.trim() === ""}
          onClick={() => decide.mutate("return")}
        >
          Return
        </button>
      </span>
      {error !== null && <Failure error={error} />}
      {sent > 0 && (
        <section aria-label="Effect preview" aria-live="polite" className="w-full">
          {effect.data === undefined ? (
            effect.error === null && (
              <p className="muted text-sm" role="status">
                Calculating …
              </p>
            )
          ) : (
            <>
              <h2 className="text-base">
                {effect.data.reports.length === 0
                  ? "Nothing waits in them; approving closes the weeks"
                  : `Approving accepts ${countWords(effect.data.reports.length, "report", "reports")} and would`}
              </h2>
              <Endings
                effects={effect.data.effects}
                answers={endings}
                onAnswer={(answers) => setEndings({ ...endings, ...answers })}
              />
              <div className="grid gap-x-8 md:grid-cols-2" aria-busy={effect.isFetching}>
                {effect.data.effects.map((of) => (
                  <section key={of.project}>
                    <h3 className="text-sm">{of.projectName}</h3>
                    <AssumedStarts of={of} />
                    <EffectView effect={of.effect} />
                  </section>
                ))}
              </div>
            </>
          )}
        </section>
      )}
    </div>
  );
}

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
      {here.length > 0 && <Actions week={week} chosen={here} onDone={() => setChosen(new Set())} />}
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
