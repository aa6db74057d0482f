import type { Boxes } from "@chronometra/contract";
import {
  boxesInOrder,
  boxSeries,
  daysWords,
  MOST_BOXES,
  PlanProblems,
  type BoxLength,
  type BoxSeries,
  type Change,
  type Plan,
} from "@chronometra/core";
import { useState } from "react";
import { Dialog } from "../../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../../shared/dialogs/SaveOrCancel.tsx";
import { DateField } from "../../shared/fields/DateField.tsx";
import { countWords } from "../../shared/words/words.ts";
import type { Asking } from "./asking.ts";

interface Props extends Asking {
  readonly told: Boxes;
}

interface Typed {
  readonly name: string;
  readonly first: string;
  readonly count: string;
  readonly length: string;
  readonly unit: BoxLength["unit"];
  readonly branch: string;
}

const dayAfter = (date: string): string => new Date(Date.parse(date) + 86_400_000).toISOString().slice(0, 10);

/** What goes on where the last timebox of that branch ends; else a series that begins with the plan, or today. */
function begun(plan: Plan, today: string, branch: string): Pick<Typed, "name" | "first"> {
  const last = boxesInOrder(plan).findLast((box) => (box.branch ?? "") === branch);
  if (last !== undefined) return { name: last.name.replace(/\s*\d+$/, ""), first: dayAfter(last.last) };
  return { name: "Fortnight", first: plan.project.start > today ? plan.project.start : today };
}

/** The number after the greatest that a box of that name bears. */
const nextNumber = (plan: Plan, name: string): number =>
  1 +
  Math.max(
    0,
    ...[...plan.timeboxes.values()].map((box) =>
      box.name.startsWith(`${name} `) ? Number(/^\d+$/.exec(box.name.slice(name.length + 1))?.[0] ?? 0) : 0,
    ),
  );

/** The series as it was typed; what is wrong with it where it is none. */
function seriesOf(plan: Plan, { name, first, count, length, unit, branch }: Typed): BoxSeries | string {
  const [many, long] = [Number(count), Number(length)];
  if (name.trim() === "") return "Say what they are called.";
  if (first === "") return "Say on which day the first begins.";
  if (!Number.isInteger(many) || many < 1 || many > MOST_BOXES) return `Make 1 to ${MOST_BOXES} in one go.`;
  if (!Number.isInteger(long) || long < 1 || long > 366)
    return "Give their duration as a whole number, such as 2 weeks.";
  const plain = name.trim();
  return {
    ...{ name: plain, number: nextNumber(plan, plain), first, count: many, length: { count: long, unit } },
    branch: branch === "" ? null : branch,
  };
}

/** The changes that make a series, tried out. */
function made(plan: Plan, series: BoxSeries): { readonly changes: readonly Change[] } | { readonly fault: string } {
  try {
    return { changes: boxSeries(plan, series, () => crypto.randomUUID()) };
  } catch (error) {
    if (!(error instanceof PlanProblems)) throw error;
    return { fault: error.problems[0]!.message };
  }
}

const rowsOf = (changes: readonly Change[]) =>
  changes.flatMap((change) => (change.type === "addRow" && change.table === "timeboxes" ? [change.row] : []));

/** The boxes that a series is of, or why it is none. */
function SeriesSeen({ fault, boxes }: { fault: string | null; boxes: ReturnType<typeof rowsOf> }) {
  if (fault !== null)
    return (
      <p role="alert" className="adverse text-sm">
        {fault}
      </p>
    );
  return (
    <ul className="max-h-36 overflow-auto text-sm" tabIndex={0} aria-label="What is made">
      {boxes.map(({ id, name, first, last }) => (
        <li key={id} className="flex justify-between border-b rule py-0.5">
          <span>{name}</span> <span className="muted">{daysWords(first, last)}</span>
        </li>
      ))}
    </ul>
  );
}

/** Makes a series of timeboxes in one go, which are seen before they are made. */
export function SeriesDialog({ plan, told, onAct, onClose }: Props) {
  const [typed, setTyped] = useState<Typed>({
    ...{ count: "6", length: "2", unit: "weeks", branch: "" },
    ...begun(plan, told.today, ""),
  });
  const put = (part: Partial<Typed>): void => setTyped({ ...typed, ...part });
  const series = seriesOf(plan, typed);
  const tried = typeof series === "string" ? { fault: series } : made(plan, series);
  const boxes = "changes" in tried ? rowsOf(tried.changes) : [];
  const number = (name: "count" | "length", label: string) => (
    <input
      className="input input-sm w-14 text-right"
      aria-label={label}
      inputMode="numeric"
      value={typed[name]}
      onChange={({ target }) => put({ [name]: target.value })}
    />
  );
  return (
    <Dialog title="A series of timeboxes" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (typeof series === "string" || "fault" in tried) return;
          onAct({
            words: `${countWords(boxes.length, "timebox is", "timeboxes are")} made.`,
            changesOf: () => [...tried.changes],
          });
          onClose();
        }}
      >
        <label className="flex items-center gap-2">
          <span className="w-24 shrink-0">Called</span>
          <input
            className="input input-sm flex-1"
            aria-label="What they are called"
            value={typed.name}
            onChange={({ target }) => put({ name: target.value })}
          />
          <span className="muted text-sm">and a number</span>
        </label>
        <label className="flex items-center gap-2">
          <span className="w-24 shrink-0">For</span>
          <select
            className="select select-sm flex-1"
            aria-label="For which branch"
            value={typed.branch}
            onChange={({ target }) => put({ branch: target.value, ...begun(plan, told.today, target.value) })}
          >
            <option value="">the whole project</option>
            {told.branches.map(({ id, name }) => (
              <option key={id} value={id}>
                {name}
              </option>
            ))}
          </select>
        </label>
        <div className="flex flex-wrap items-center gap-2">
          <span className="w-24 shrink-0">Each</span>
          {number("length", "Duration of each")}
          <select
            className="select select-sm w-36"
            aria-label="Weeks or days of work"
            value={typed.unit}
            onChange={({ target }) => put({ unit: target.value as BoxLength["unit"] })}
          >
            <option value="weeks">weeks</option>
            <option value="days">days of work</option>
          </select>
          from <DateField small label="First day" value={typed.first} onDate={(first) => put({ first })} />
        </div>
        <div className="flex items-center gap-2">
          <span className="w-24 shrink-0">How many</span>
          {number("count", "How many")}
        </div>
        <SeriesSeen fault={"fault" in tried ? tried.fault : null} boxes={boxes} />
        <SaveOrCancel fault={null} isReady={!("fault" in tried)} words="Make them" onClose={onClose} />
      </form>
    </Dialog>
  );
}
