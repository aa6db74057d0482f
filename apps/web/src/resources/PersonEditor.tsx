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
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { Exceptions } from "./calendars/Exceptions.tsx";
import { personRows } from "./leave.ts";
import { Rates, type Rate } from "./Rates.tsx";
import { planWay, SharedStore } from "./stored/SharedStore.tsx";

interface Props {
  readonly view: PlanView;
  readonly plan: Plan;
  readonly person: Person;
  readonly isNew: boolean;
  readonly others: readonly OtherProject[];
  readonly change: (changes: readonly Change[], words: string) => Promise<string | null>;
  readonly onDone: () => void;
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
        <SharedStore others={others} way={planWay(view.id, rows)} what={draft.name} onDone={onDone} onLeave={leaveTo} />
      )}
    </div>
  );
}
