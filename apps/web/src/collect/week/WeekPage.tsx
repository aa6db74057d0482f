import type { WeekCell, WeekView } from "@chronometra/contract";
import { formatHours } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { KeyboardEvent } from "react";
import { Link, useSearchParams } from "react-router";
import { toast } from "../../shared/messages/toast.ts";
import { call } from "../../shared/session/api.ts";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { countWords, dateWords, momentWords, shortDateWords } from "../../shared/words/words.ts";
import { weekQuery } from "../queries.ts";
import { readTime } from "../readTime.ts";
import { useDeskAgain } from "../useDesk.ts";
import { WeekSteps } from "../WeekSteps.tsx";
import { asLastWeek, bookedOn, cellTotal, dayNote, shiftDays } from "../weekSums.ts";
import { todayHere } from "../../shared/words/today.ts";

const NAMES = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];
const shortHours = (minutes: number): string => formatHours(minutes).replace(" ", "");

/** Enter and Down go to the field below, Up to the one above. */
function moveInColumn(event: KeyboardEvent<HTMLTableElement>): void {
  const step = { Enter: 1, ArrowDown: 1, ArrowUp: -1 }[event.key];
  const cell = (event.target as HTMLElement).closest<HTMLTableCellElement>("td");
  if (step === undefined || cell === null || !(event.target instanceof HTMLInputElement)) return;
  const rows = [...event.currentTarget.tBodies[0]!.rows];
  for (let i = rows.indexOf(cell.parentElement as HTMLTableRowElement) + step; i >= 0 && i < rows.length; i += step) {
    const field = rows[i]!.cells[cell.cellIndex]?.querySelector<HTMLInputElement>("input:not(:disabled)");
    if (field === null || field === undefined) continue;
    event.preventDefault();
    field.focus();
    return field.select();
  }
}

/** Writes cells, and offers to write them back. */
function useWriteWeek(week: WeekView) {
  const client = useQueryClient();
  const again = (): Promise<unknown> =>
    Promise.all([client.invalidateQueries({ queryKey: ["desk"] }), client.invalidateQueries({ queryKey: ["period"] })]);
  return useMutation({
    mutationFn: (cells: readonly WeekCell[]) => call("PUT /api/desk/week", { body: { cells: [...cells] } }),
    onSuccess: async (_done, cells) => {
      const before = cells.map(({ note: _note, ...cell }) => ({ ...cell, minutes: cellTotal(week, cell) }));
      await again();
      const undo = (): void =>
        void call("PUT /api/desk/week", { body: { cells: before } }).then(again, (error: Error) =>
          toast.error(error.message),
        );
      toast(
        cells.length === 1
          ? `${shortHours(cells[0]!.minutes)} on ${shortDateWords(cells[0]!.date)}`
          : `${countWords(cells.length, "cell", "cells")} written`,
        { action: { label: "Undo", onClick: undo } },
      );
    },
  });
}

function Cell({
  week,
  row,
  i,
  write,
}: {
  week: WeekView;
  row: WeekView["rows"][number];
  i: number;
  write: ReturnType<typeof useWriteWeek>;
}) {
  const { date } = week.days[i]!;
  const { posted, waiting, returned, notes } = row.cells[i]!;
  const total = posted + waiting;
  const commit = async (text: string): Promise<string | null> => {
    const read = text.trim() === "" ? { minutes: 0, note: "" } : readTime(text, "none too");
    if ("fault" in read) return read.fault;
    try {
      await write.mutateAsync([
        {
          project: row.project,
          activity: row.activity,
          date,
          minutes: read.minutes,
          ...(read.note === "" ? {} : { note: read.note }),
        },
      ]);
      return null;
    } catch (error) {
      return (error as Error).message;
    }
  };
  const says = [
    posted > 0 ? `${shortHours(posted)} accepted` : "",
    waiting > 0 ? `${shortHours(waiting)} waiting` : "",
    returned > 0 ? `${shortHours(returned)} returned` : "",
    ...notes,
  ]
    .filter((words) => words !== "")
    .join("; ");
  return (
    <td className={`num ${week.today === date ? "bg-base-200" : ""}`} title={says}>
      <span className="relative inline-flex">
        <CommitField
          label={`${row.name}, ${NAMES[i]!} ${dateWords(date)}`}
          value={total === 0 ? "" : shortHours(total)}
          width="w-16"
          numeric
          disabled={(!row.open && total === 0) || date > shiftDays(week.today, 1)}
          onCommit={commit}
        />
        {waiting > 0 && (
          <span
            className="undecided absolute -right-2 text-[11px]"
            aria-label={`${shortHours(waiting)} waiting to be accepted`}
          >
            ◦
          </span>
        )}
        {returned > 0 && (
          <span
            className="adverse absolute -right-2 bottom-0 text-[11px]"
            aria-label={`${shortHours(returned)} returned`}
          >
            ↩
          </span>
        )}
      </span>
    </td>
  );
}

function Grid({ week, write }: { week: WeekView; write: ReturnType<typeof useWriteWeek> }) {
  const expected = week.days.reduce((sum, { expectedMinutes }) => sum + expectedMinutes, 0);
  const booked = week.days.map((_day, i) => bookedOn(week, i));
  return (
    <div className="overflow-x-auto">
      <table className="ledger panel-table" aria-label="The week" onKeyDown={moveInColumn}>
        <thead>
          <tr>
            <th>Activity</th>
            {week.days.map(({ date }, i) => (
              <th key={date} className="num">
                {NAMES[i]}
                <br />
                <span className="font-normal">{shortDateWords(date)}</span>
              </th>
            ))}
            <th className="num">Week</th>
          </tr>
        </thead>
        <tbody>
          {week.rows.map((row) => (
            <tr key={`${row.project} ${row.activity}`}>
              <td className="max-w-80">
                <span className="block truncate" title={`${row.name} · ${row.projectName}`}>
                  {row.name}{" "}
                  <span className="muted">
                    {row.projectName}
                    {!row.open && ", closed"}
                  </span>
                </span>
              </td>
              {week.days.map(({ date }, i) => (
                <Cell key={date} week={week} row={row} i={i} write={write} />
              ))}
              <td className="num font-semibold">
                {shortHours(row.cells.reduce((sum, { posted, waiting }) => sum + posted + waiting, 0))}
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="total">
            <td>Booked of expected</td>
            {week.days.map((day, i) => {
              const note = dayNote(day, booked[i]!, week.today);
              return (
                <td key={day.date} className={`num ${note === null ? "" : "undecided"}`} title={note ?? undefined}>
                  {shortHours(booked[i]!)}{" "}
                  <span className="muted font-normal">of {shortHours(day.expectedMinutes)}</span>
                  {note !== null && <span className="block text-[11px] font-normal">{note}</span>}
                </td>
              );
            })}
            <td className="num">
              {shortHours(booked.reduce((sum, minutes) => sum + minutes, 0))}{" "}
              <span className="muted font-normal">of {shortHours(expected)}</span>
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
  );
}

/** Sends the week as whole; what was said to it stands beside. */
function SendWeek({ week }: { week: WeekView }) {
  const again = useDeskAgain();
  const { sheet } = week;
  const send = useMutation({
    mutationFn: () => call("POST /api/desk/week/:date/sheet", { params: { date: week.from } }),
    onSuccess: () => {
      toast("Your week is sent; your manager approves it or returns it with a word.");
      void again();
    },
    onError: (error) => toast.error(error.message),
  });
  if (sheet?.state === "approved")
    return (
      <span className="favourable text-sm">✓ approved by {sheet.decidedBy}; correct it by a cell with a note</span>
    );
  return (
    <>
      <button
        type="button"
        className="btn btn-primary btn-sm"
        disabled={send.isPending || week.from > week.today}
        onClick={() => send.mutate()}
      >
        {sheet === null ? "Send the week" : "Send it again"}
      </button>
      {sheet?.state === "sent" && (
        <span className="undecided text-sm">
          sent on {momentWords(sheet.sentAt)}
          {sheet.changedAt === null
            ? ", waits to be approved"
            : `, changed since on ${momentWords(sheet.changedAt)}: it is approved as it is then, or send it again`}
        </span>
      )}
      {sheet?.state === "returned" && (
        <span className="adverse text-sm">
          returned by {sheet.decidedBy}: “{sheet.word}”
        </span>
      )}
    </>
  );
}

function Week({ week, onGo }: { week: WeekView; onGo: (date: string) => void }) {
  const write = useWriteWeek(week);
  const client = useQueryClient();
  const copy = async (): Promise<void> => {
    try {
      const last = await client.fetchQuery(weekQuery(shiftDays(week.from, -7)));
      const cells = asLastWeek(week, last);
      if (cells.length === 0) toast("There is nothing of last week to copy into cells that are still empty.");
      else await write.mutateAsync(cells);
    } catch (error) {
      toast.error((error as Error).message);
    }
  };
  return (
    <div className="page">
      <WeekSteps title="Your week" from={week.from} onGo={onGo}>
        <button
          type="button"
          className="btn btn-sm"
          disabled={week.rows.length === 0 || write.isPending}
          onClick={() => void copy()}
        >
          Copy last week
        </button>
        <SendWeek week={week} />
        <Link className="ml-auto underline" to="/desk">
          The desk
        </Link>
      </WeekSteps>
      <p className="muted mb-2 text-sm">
        Type 1.5h, 1:30 or 2h and a note. What you write waits to be accepted; ◦ marks it.
      </p>
      {week.rows.length === 0 ? (
        <p className="muted py-6">You have no open activities and booked nothing in this week.</p>
      ) : (
        <Grid week={week} write={write} />
      )}
    </div>
  );
}

/** A contributor's week as a grid of days by activities. */
export function WeekPage() {
  const [params, setParams] = useSearchParams();
  const date = params.get("date") ?? todayHere();
  return (
    <Loaded query={useQuery(weekQuery(date))}>
      {(week) => <Week key={week.from} week={week} onGo={(to) => setParams({ date: to }, { replace: true })} />}
    </Loaded>
  );
}
