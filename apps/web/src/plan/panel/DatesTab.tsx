import { telling } from "../../shared/messages/telling.ts";
import { WISHES, type Change } from "@chronometra/core";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { dateWords, marginWords, NOT_A_DATE, readDate } from "../../shared/words/words.ts";
import type { Sheet, SheetRow } from "../engine/sheet.ts";
import { todayHere } from "../../shared/words/today.ts";
import { readWish, wishChange } from "../engine/wishWords.ts";
import type { Commit } from "./useCommit.ts";

interface Props {
  readonly row: SheetRow;
  readonly sheet: Sheet;
  readonly commit: Commit;
  readonly mayEdit: boolean;
}

const DRIVEN = [
  { value: "length", words: "its duration, which holds" },
  { value: "lengthDrifting", words: "its duration, or longer if its people need it" },
  { value: "hours", words: "the hours of its people" },
] as const;

const KINDS = [
  { value: "work", words: "work" },
  { value: "milestone", words: "a milestone" },
  { value: "levelOfEffort", words: "level of effort, spanning others" },
] as const;

/** The change to another kind, with the length that a milestone cannot have. */
function kindChanges({ id, durationMinutes }: SheetRow, kind: (typeof KINDS)[number]["value"]): Change[] {
  return [
    { type: "setKind", activity: id, kind: kind === "work" ? null : kind },
    ...(kind === "milestone" && durationMinutes !== null
      ? [{ type: "setDuration", activity: id, minutes: null } as const]
      : []),
  ];
}

function Field({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <label className="flex items-center gap-2">
      <span className="muted w-24 shrink-0">{name}</span>
      {children}
    </label>
  );
}

function Wish({ row, commit, mayEdit }: Props) {
  const { wish } = row;
  const take = (type: string, date: string, reason: string): Promise<string | null> | string | null => {
    if (date.trim() === "") return commit([wishChange(row.id, null)]);
    const read = readWish(
      `${WISHES[type as keyof typeof WISHES]} ${date}${reason.trim() === "" ? "" : `: ${reason}`}`,
      todayHere().slice(0, 4),
    );
    return read !== null && "fault" in read ? read.fault : commit([wishChange(row.id, read)]);
  };
  const type = wish?.type ?? "startNotBefore";
  return (
    <div className="flex flex-wrap items-center gap-2">
      <span className="muted w-24">Date wish</span>
      <select
        className="select select-xs w-36"
        aria-label="Kind of date wish"
        disabled={!mayEdit || wish === null}
        value={type}
        onChange={(event) => telling(take)(event.target.value, wish!.date, wish?.reason ?? "")}
      >
        {Object.entries(WISHES).map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
      <CommitField
        label="Date wished for"
        date={wish?.date ?? ""}
        value={wish === null ? "" : dateWords(wish.date)}
        width="w-28"
        placeholder="none"
        disabled={!mayEdit}
        onCommit={(text) => take(type, text, wish?.reason ?? "")}
      />
      <CommitField
        label="Reason of the date wish"
        value={wish?.reason ?? ""}
        width="w-72"
        placeholder="why"
        disabled={!mayEdit || wish === null}
        onCommit={(text) => take(type, wish!.date, text)}
      />
    </div>
  );
}

/** The owner or the calendar, of those there are. */
function Named({
  field,
  among,
  row,
  commit,
  mayEdit,
}: Props & { field: "owner" | "calendar"; among: Sheet["people"] }) {
  return (
    <select
      className="select select-xs w-56"
      disabled={!mayEdit}
      value={row[field] ?? ""}
      onChange={(event) =>
        telling(commit)([
          {
            type: "setWorking",
            activity: row.id,
            [field]: event.target.value === "" ? null : event.target.value,
          } as Change,
        ])
      }
    >
      <option value="">{field === "owner" ? "nobody yet" : "the project's"}</option>
      {among.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  );
}

/** What decides the dates: the length, or the hours of its people. */
function Driven({ row, commit, mayEdit }: Props) {
  return (
    <select
      className="select select-xs w-72"
      disabled={!mayEdit}
      value={row.drivenBy}
      onChange={(event) =>
        telling(commit)([
          {
            type: "setWorking",
            activity: row.id,
            driver: event.target.value === "hours" ? "effort" : null,
            windowPolicy: event.target.value === "lengthDrifting" ? "drift" : null,
          },
        ])
      }
    >
      {DRIVEN.map(({ value, words }) => (
        <option key={value} value={value}>
          {words}
        </option>
      ))}
    </select>
  );
}

/** What the activity is, what decides its dates, who answers for it, and what was wished and promised. */
export function DatesTab(props: Props) {
  const { row, sheet, commit, mayEdit } = props;
  const deadline = (text: string): Promise<string | null> | string => {
    const date = text.trim() === "" ? null : readDate(text, todayHere().slice(0, 4));
    return date === null && text.trim() !== "" ? NOT_A_DATE : commit([{ type: "setDeadline", activity: row.id, date }]);
  };
  const summary = row.kind === "summary";
  return (
    <div className="grid gap-y-1.5">
      {!summary && (
        <Field name="It is">
          <select
            className="select select-xs w-56"
            disabled={!mayEdit}
            value={row.kind}
            onChange={(event) =>
              telling(commit)(kindChanges(row, event.target.value as (typeof KINDS)[number]["value"]))
            }
          >
            {KINDS.map(({ value, words }) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </select>
        </Field>
      )}
      <Field name="Owner">
        <Named field="owner" among={sheet.people} {...props} />
      </Field>
      {row.kind === "work" && (
        <Field name="Dates follow">
          <Driven {...props} />
        </Field>
      )}
      {!summary && (
        <Field name="Calendar">
          <Named field="calendar" among={sheet.calendars} {...props} />
        </Field>
      )}
      <div className="flex items-center gap-2">
        <span className="muted w-24">Deadline</span>
        <CommitField
          label="Deadline"
          date={row.deadline ?? ""}
          value={row.deadline === null ? "" : dateWords(row.deadline)}
          width="w-28"
          placeholder="none"
          disabled={!mayEdit}
          onCommit={deadline}
        />
        {row.marginDays !== null && <span className="muted">{marginWords(row.marginDays)}</span>}
      </div>
      {row.actualFinish !== null && (
        <Field name="Ended">
          <label className="flex items-center gap-1.5">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              disabled={!mayEdit}
              checked={row.dropped}
              onChange={(event) =>
                telling(commit)([
                  { type: "reportProgress", activity: row.id, dropped: event.target.checked ? true : null },
                ])
              }
            />{" "}
            short of its scope: dropped, it earns only what it has
          </label>
        </Field>
      )}
      {!summary && <Wish {...props} />}
    </div>
  );
}
