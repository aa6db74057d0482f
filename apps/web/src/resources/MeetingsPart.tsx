import { activityNames, formatHours, parseDuration } from "@chronometra/core";
import { useMemo, useState } from "react";
import { telling } from "../shared/messages/telling.ts";
import { toast } from "../shared/messages/toast.ts";
import { DateField } from "../shared/fields/DateField.tsx";
import { NameChoice } from "../shared/fields/NameChoice.tsx";
import { dateWords } from "../shared/words/words.ts";
import type { PartProps } from "./stored/partProps.ts";

/** A meeting to be added: what, when, how long, on which activity, and who goes. */
function NewMeeting({ plan, change }: Pick<PartProps, "plan" | "change">) {
  const [name, setName] = useState("");
  const [activity, setActivity] = useState<string | null>(null);
  const [date, setDate] = useState("");
  const [until, setUntil] = useState("");
  const [length, setLength] = useState("1h");
  const [people, setPeople] = useState<readonly string[]>([]);
  const minutes = parseDuration(length, 480, "hours");
  const open = useMemo(() => {
    const activities = [...plan.activities.values()].filter(
      ({ kind, parked }) => kind !== "summary" && parked !== true,
    );
    const names = activityNames(plan.activities.values());
    return activities.map(({ id }) => ({ id, name: names.of(id) }));
  }, [plan.activities]);
  const add = async (): Promise<void> => {
    const id = `m-${crypto.randomUUID().slice(0, 8)}`;
    const row = {
      id,
      name: name.trim(),
      activity: activity!,
      date,
      minutes: minutes!,
      people: [...people],
      ...(until === "" ? {} : { weeklyUntil: until }),
    };
    const fault = await change(
      [{ type: "addRow", table: "meetings", key: id, row }],
      `${name.trim()} stands on the desks of those who go.`,
    );
    if (fault !== null) return void toast.error(fault);
    setName("");
    setPeople([]);
  };
  return (
    <form
      className="mt-4 flex flex-col gap-2 text-sm"
      aria-label="A new meeting"
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <div className="flex flex-wrap items-center gap-2">
        <input
          className="input input-sm w-48"
          aria-label="Name of the meeting"
          placeholder="name"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <DateField label="Day of the meeting" small value={date} onDate={setDate} /> weekly until{" "}
        <DateField label="Last day, where weekly" small value={until} onDate={setUntil} />
        <input
          className="input input-sm w-20"
          aria-label="How long"
          value={length}
          aria-invalid={minutes === null}
          onChange={(event) => setLength(event.target.value)}
        />
        <NameChoice label="Booked on" things={open} onChoose={setActivity} />
      </div>
      <fieldset className="flex max-w-4xl flex-wrap gap-x-5 gap-y-0.5">
        <legend className="sr-only">Who goes</legend>
        {[...plan.people.values()]
          .filter(({ id }) => !plan.placeholders.has(id))
          .map((person) => (
            <label key={person.id} className="flex min-h-[26px] items-center gap-1.5">
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                checked={people.includes(person.id)}
                onChange={(event) =>
                  setPeople(event.target.checked ? [...people, person.id] : people.filter((id) => id !== person.id))
                }
              />
              {person.name}
            </label>
          ))}
      </fieldset>
      <button
        className="btn btn-sm self-start"
        disabled={name.trim() === "" || activity === null || date === "" || minutes === null || people.length === 0}
      >
        Add the meeting
      </button>
    </form>
  );
}

/** Meetings whose hours are ready to be booked on the desks of those who go. */
export function MeetingsPart({ view, plan, change }: PartProps) {
  return (
    <section>
      <p className="muted mb-2 max-w-prose text-sm">
        Whoever goes to a meeting finds its hours on the desk and books them with one touch. They are booked on the
        activity named here.
      </p>
      <table className="ledger panel-table" aria-label="Meetings">
        <thead>
          <tr>
            <th>Meeting</th>
            <th>When</th>
            <th className="num">Hours</th>
            <th>Booked on</th>
            <th>Who goes</th>
            <th>
              <span className="sr-only">Remove</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {[...plan.meetings].map(([key, meeting]) => (
            <tr key={key}>
              <td>{meeting.name}</td>
              <td className="whitespace-nowrap">
                {meeting.weeklyUntil === undefined
                  ? dateWords(meeting.date)
                  : `each week from ${dateWords(meeting.date)} to ${dateWords(meeting.weeklyUntil)}`}
              </td>
              <td className="num">{formatHours(meeting.minutes)}</td>
              <td>{plan.activities.get(meeting.activity)?.name}</td>
              <td className="max-w-96 text-sm">
                {meeting.people.map((id) => plan.people.get(id)?.name ?? id).join(", ")}
              </td>
              <td>
                {view.mayEdit && (
                  <button
                    type="button"
                    className="btn btn-xs"
                    onClick={() =>
                      telling(change)([{ type: "removeRow", table: "meetings", key }], `${meeting.name} is removed.`)
                    }
                  >
                    Remove
                  </button>
                )}
              </td>
            </tr>
          ))}
          {plan.meetings.size === 0 && (
            <tr>
              <td colSpan={6} className="muted">
                No meetings yet.
              </td>
            </tr>
          )}
        </tbody>
      </table>
      {view.mayEdit && <NewMeeting plan={plan} change={change} />}
    </section>
  );
}
