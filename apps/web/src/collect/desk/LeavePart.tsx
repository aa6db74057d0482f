import type { Desk } from "@chronometra/contract";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { DateField } from "../../shared/fields/DateField.tsx";
import { Failure } from "../../shared/dialogs/Failure.tsx";
import { dateWords } from "../../shared/words/words.ts";
import { useDeskCall } from "../useDesk.ts";

const LETTERS = ["M", "T", "W", "T", "F", "S", "S"];

/** Five weeks of one's own: days worked and not, leave, and what is due. */
function OwnCalendar({ desk }: { desk: Desk }) {
  const usual = Math.max(0, ...desk.calendar.map(({ expectedMinutes }) => expectedMinutes));
  const due = new Map<string, string[]>();
  for (const { finish, name } of desk.activities) due.set(finish, [...(due.get(finish) ?? []), name]);
  if (desk.calendar.length === 0) return null;
  return (
    <table className="mb-2 w-full table-fixed border-collapse text-center text-xs" aria-label="Your days">
      <thead>
        <tr>
          {LETTERS.map((letter, i) => (
            <th key={i} scope="col" className="muted font-normal">
              {letter}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {Array.from({ length: desk.calendar.length / 7 }, (_, week) => (
          <tr key={week}>
            {desk.calendar.slice(week * 7, week * 7 + 7).map(({ date, expectedMinutes }) => {
              const leave = desk.leave.find(({ from, to }) => from <= date && to >= date);
              const works = due.get(date) ?? [];
              const says = [
                dateWords(date),
                leave !== undefined
                  ? `leave${leave.waiting ? ", waiting to be accepted" : ""}`
                  : expectedMinutes === 0
                    ? "no working day"
                    : expectedMinutes < usual
                      ? "a short day"
                      : "",
                ...works.map((name) => `due: ${name}`),
              ]
                .filter((words) => words !== "")
                .join("; ");
              return (
                <td
                  key={date}
                  title={says}
                  aria-label={says}
                  className={`h-6 border rule tabular-nums ${date === desk.today ? "outline-2 -outline-offset-2 outline-accent font-semibold" : ""} ${leave !== undefined ? "bg-accent/25" : expectedMinutes === 0 ? "bg-base-200 opacity-80" : ""}`}
                >
                  {Number(date.slice(8))}
                  {works.length > 0 && (
                    <span aria-hidden="true" className="undecided">
                      ▴
                    </span>
                  )}
                </td>
              );
            })}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** One's own leave, and the way to say that there will be some. */
export function LeavePart({ desk }: { desk: Desk }) {
  const [from, setFrom] = useState("");
  const [to, setTo] = useState("");
  const [note, setNote] = useState("");
  const send = useDeskCall(() => call("POST /api/desk/leave", { body: { from, to: to === "" ? from : to, note } }));
  const withdraw = useDeskCall((days: { from: string; to: string }) => call("DELETE /api/desk/leave", { body: days }));
  const say = (): void => {
    send.mutate(undefined, {
      onSuccess: () => {
        toast("Your leave waits to be accepted; it moves only your own work.");
        setFrom("");
        setTo("");
        setNote("");
      },
    });
  };
  return (
    <section aria-label="Your leave" className="mt-5">
      <h2 className="mb-1 border-b-2 border-current pb-0.5 text-base">Your days and leave</h2>
      <OwnCalendar desk={desk} />
      <ul className="text-sm">
        {desk.leave.map((leave) => (
          <li key={leave.from} className="border-b rule py-1">
            {dateWords(leave.from)}
            {leave.to !== leave.from && ` to ${dateWords(leave.to)}`}
            {leave.label !== "" && <span className="muted"> {leave.label}</span>}{" "}
            <span className={leave.waiting ? "undecided" : "muted"}>
              {leave.waiting ? "waits to be accepted" : "accepted"}
            </span>
            {leave.waiting && (
              <>
                {" "}
                <button
                  type="button"
                  className="btn btn-xs"
                  disabled={withdraw.isPending}
                  aria-label={`Withdraw leave from ${dateWords(leave.from)}`}
                  onClick={() => withdraw.mutate({ from: leave.from, to: leave.to })}
                >
                  Withdraw
                </button>
              </>
            )}
          </li>
        ))}
        {desk.leave.length === 0 && <li className="muted py-1">None to come.</li>}
      </ul>
      <form
        className="mt-1 flex flex-wrap items-center gap-1.5 text-sm"
        onSubmit={(event) => {
          event.preventDefault();
          say();
        }}
      >
        <DateField label="First day of leave" small value={from} onDate={setFrom} /> to{" "}
        <DateField label="Last day of leave" small value={to} onDate={setTo} />
        <input
          className="input input-sm w-40"
          aria-label="What kind of leave"
          placeholder="what kind"
          value={note}
          maxLength={200}
          onChange={(event) => setNote(event.target.value)}
        />
        <button className="btn btn-sm" disabled={send.isPending || from === ""}>
          I shall be away
        </button>
      </form>
      {(send.error ?? withdraw.error) !== null && <Failure error={send.error ?? withdraw.error} />}
    </section>
  );
}
