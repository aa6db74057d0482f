import type { OtherProject, PlanView } from "@chronometra/contract";
import {
  fillPlaceholder,
  removePerson,
  type Change,
  type Person,
  type Plan,
  leaveOf,
  worksBy,
} from "@chronometra/core";
import { X } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { AMOUNT_FAULT, amountText, readAmount } from "../shared/amounts.ts";
import { CommitField } from "../shared/CommitField.tsx";
import { todayHere } from "../shared/today.ts";
import { dateWords, NOT_A_DATE, readDate } from "../shared/words.ts";
import { Exceptions } from "./Exceptions.tsx";
import { personRows } from "./leave.ts";
import { SharedStore } from "./SharedStore.tsx";

interface Props {
  readonly view: PlanView;
  readonly plan: Plan;
  readonly person: Person;
  readonly isNew: boolean;
  readonly others: readonly OtherProject[];
  readonly change: (changes: readonly Change[], words: string) => Promise<string | null>;
  readonly onDone: () => void;
}

type Rate = NonNullable<Person["rates"]>[number];

export const RATE_HINT = "64.50 from 1 Jan 2027";

/** A rate as it is typed, `64.50 from 1 Jan 2027`; the first of a person needs no day. `null` where it is none. */
export function readPersonRate(text: string, minorDigits: number, isFirst: boolean, year: string): Rate | null {
  const match = /^(\S+)(?:\s+from\s+(.+))?$/i.exec(text.trim());
  const minor = match === null ? null : readAmount(match[1]!, minorDigits);
  const from = match?.[2] === undefined ? (isFirst ? "2000-01-01" : null) : readDate(match[2], year);
  return minor === null || from === null ? null : { from, perHourMinor: minor };
}

function Rates({
  rates,
  onChange,
  minorDigits,
  currency,
  disabled,
}: {
  rates: readonly Rate[];
  onChange: (rates: Rate[]) => void;
  minorDigits: number;
  currency: string;
  disabled: boolean;
}) {
  const sorted = (next: Rate[]): null => {
    onChange(next.sort((a, b) => (a.from < b.from ? -1 : 1)));
    return null;
  };
  const from =
    (i: number) =>
    (text: string): string | null => {
      const date = readDate(text, rates[i]!.from.slice(0, 4));
      if (date === null) return NOT_A_DATE;
      if (rates.some((rate, n) => n !== i && rate.from === date)) return "There is a rate from that day already.";
      return sorted(rates.map((rate, n) => (n === i ? { ...rate, from: date } : rate)));
    };
  const amount =
    (i: number) =>
    (text: string): string | null => {
      const minor = readAmount(text, minorDigits);
      return minor === null
        ? AMOUNT_FAULT
        : sorted(rates.map((rate, n) => (n === i ? { ...rate, perHourMinor: minor } : rate)));
    };
  const add = (text: string): string | null => {
    const read = readPersonRate(text, minorDigits, rates.length === 0, todayHere().slice(0, 4));
    if (read === null) return `Write ${RATE_HINT}.`;
    if (rates.some((rate) => rate.from === read.from)) return "There is a rate from that day already.";
    return sorted([...rates, read]);
  };
  return (
    <table className="ledger panel-table" aria-label="Rates">
      <thead>
        <tr>
          <th>From</th>
          <th className="num">{currency} an hour</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {rates.map((rate, i) => (
          <tr key={rate.from}>
            <td>
              <CommitField
                label={`Rate ${i + 1} from`}
                date={rate.from}
                value={dateWords(rate.from)}
                width="w-28"
                disabled={disabled}
                onCommit={from(i)}
              />
            </td>
            <td className="num">
              <CommitField
                label={`Rate from ${dateWords(rate.from)}`}
                value={amountText(rate.perHourMinor, minorDigits)}
                width="w-24"
                numeric
                disabled={disabled}
                onCommit={amount(i)}
              />
            </td>
            <td>
              {!disabled && (
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square"
                  aria-label={`Remove the rate from ${dateWords(rate.from)}`}
                  onClick={() => onChange(rates.filter((_rate, n) => n !== i))}
                >
                  <X size={12} aria-hidden="true" />
                </button>
              )}
            </td>
          </tr>
        ))}
        {!disabled && (
          <tr>
            <td colSpan={3}>
              <CommitField label="Add a rate" value="" adds width="w-56" placeholder={RATE_HINT} onCommit={add} />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

/** What is done to someone in this plan at once: standing for a role, being named, leaving. */
function Acts({ view, plan, person, change, onDone }: Props) {
  const [by, setBy] = useState("");
  const placeholder = plan.placeholders.has(person.id);
  const work = [...plan.assignments.values()].filter((row) => row.person === person.id).length;
  const tell = async (answer: Promise<string | null>, gone = false): Promise<void> => {
    const fault = await answer;
    if (fault !== null) toast.error(fault);
    else if (gone) onDone();
  };
  const mark = (): Change =>
    placeholder
      ? { type: "removeRow", table: "placeholders", key: person.id }
      : { type: "addRow", table: "placeholders", key: person.id, row: { person: person.id } };
  if (!view.mayEdit) return null;
  return (
    <div className="mb-3 flex flex-wrap items-center gap-3">
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={placeholder}
          onChange={() =>
            void tell(
              change(
                [mark()],
                placeholder
                  ? `${person.name} is somebody.`
                  : `${person.name} stands for a role until somebody is named.`,
              ),
            )
          }
        />{" "}
        Stands for a role, to be filled later
      </label>
      {placeholder && (
        <span className="flex items-center gap-1.5">
          Filled by{" "}
          <select
            className="select select-xs w-44"
            aria-label="Filled by"
            value={by}
            onChange={(event) => setBy(event.target.value)}
          >
            <option value="">select someone</option>
            {[...plan.people.values()]
              .filter(({ id }) => id !== person.id && !plan.placeholders.has(id))
              .map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
          </select>
          <button
            type="button"
            className="btn btn-xs"
            disabled={by === ""}
            onClick={() =>
              void tell(
                change(
                  fillPlaceholder(plan, person.id, by),
                  `${plan.people.get(by)!.name} does what was kept open for ${person.name}.`,
                ),
                true,
              )
            }
          >
            Give them the work
          </button>
        </span>
      )}
      {work === 0 && (
        <button
          type="button"
          className="btn btn-xs"
          onClick={() =>
            void tell(change(removePerson(plan, person.id), `${person.name} is removed from this plan.`), true)
          }
        >
          Remove from this plan
        </button>
      )}
    </div>
  );
}

/** Someone who works on the plan: role, calendar, rates and leave; stored here and wherever else they work. */
export function PersonEditor(props: Props) {
  const { view, plan, person, isNew, others, onDone } = props;
  const [draft, setDraft] = useState(person);
  const [by, setBy] = useState(worksBy(plan, person));
  const [leave, setLeave] = useState(leaveOf(plan, person));
  const rows = personRows(plan, draft, by, leave);
  const before = personRows(plan, person, worksBy(plan, person), leaveOf(plan, person));
  const changed = isNew || JSON.stringify(rows) !== JSON.stringify(before);
  const { mayEdit } = view;
  const name = (text: string): string | null => {
    if (text.trim() === "") return "A person needs a name.";
    setDraft({ ...draft, name: text.trim() });
    return null;
  };
  const role = (text: string): null => {
    const { role: _was, ...rest } = draft;
    setDraft(text.trim() === "" ? rest : { ...rest, role: text.trim() });
    return null;
  };
  const rates = (next: Rate[]): void => {
    const { rates: _was, ...rest } = draft;
    setDraft(next.length === 0 ? rest : { ...rest, rates: next });
  };
  const leaveTo = (): void => {
    setDraft(person);
    setBy(worksBy(plan, person));
    setLeave(leaveOf(plan, person));
    if (isNew) onDone();
  };
  const roles = [...new Set([...plan.people.values()].flatMap((each) => (each.role === undefined ? [] : [each.role])))];
  return (
    <div className="text-[13px]">
      {!isNew && <Acts {...props} />}
      <div className="mb-2 flex flex-wrap items-center gap-4">
        <label className="flex items-center gap-2">
          <span className="muted">Name</span>
          <CommitField label="Name" value={draft.name} width="w-52" disabled={!mayEdit} onCommit={name} />
        </label>
        <label className="flex items-center gap-2">
          <span className="muted">Role</span>
          <CommitField
            label="Role"
            value={draft.role ?? ""}
            width="w-40"
            offers={roles}
            disabled={!mayEdit}
            onCommit={role}
          />
        </label>
        <label className="flex items-center gap-2">
          <span className="muted">Works by</span>
          <select
            className="select select-xs w-44"
            disabled={!mayEdit}
            value={by ?? ""}
            onChange={(event) => setBy(event.target.value === "" ? undefined : event.target.value)}
          >
            <option value="">the project's calendar</option>
            {[...plan.calendars.values()]
              .filter(({ id }) => !id.startsWith("leave-"))
              .map(({ id, name: words }) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
          </select>
        </label>
      </div>
      <div className="flex flex-wrap items-start gap-x-10 gap-y-3">
        <div>
          <h3 className="text-sm">Rates</h3>
          <Rates
            rates={draft.rates ?? []}
            onChange={rates}
            minorDigits={plan.project.minorDigits ?? 2}
            currency={plan.project.currency}
            disabled={!mayEdit}
          />
        </div>
        <div>
          <h3 className="text-sm">Leave</h3>
          <Exceptions
            leave
            exceptions={leave}
            onChange={setLeave}
            year={Number((plan.project.dataDate ?? plan.project.start).slice(0, 4))}
            disabled={!mayEdit}
          />
        </div>
      </div>
      {changed && mayEdit && (
        <SharedStore
          project={view.id}
          others={others}
          rows={rows}
          what={draft.name}
          onDone={onDone}
          onLeave={leaveTo}
        />
      )}
    </div>
  );
}
