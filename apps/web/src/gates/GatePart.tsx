import type { Gate, GateDue, ProjectGates } from "@chronometra/contract";
import { useParams } from "react-router";
import { DocumentList } from "../documents/DocumentList.tsx";
import { DateField } from "../shared/fields/DateField.tsx";
import { todayHere } from "../shared/words/today.ts";
import { dateWords, momentWords } from "../shared/words/words.ts";
import { AskGate } from "./AskGate.tsx";
import { Conditions } from "./Conditions.tsx";
import { DecideGate } from "./DecideGate.tsx";
import type { GateKeeper } from "./queries.ts";
import { TalkButton } from "../talk/TalkButton.tsx";

interface Props {
  readonly view: ProjectGates;
  readonly gate: Gate;
  readonly keeper: GateKeeper;
}

/** When a gate is due, in words. */
function dueWords({ due, dueOn }: Gate, milestones: ProjectGates["milestones"]): string {
  if (due === null) return "on no day yet";
  if ("date" in due) return dateWords(due.date);
  const milestone = milestones.find(({ id }) => id === due.activity);
  if (milestone === undefined || dueOn === null) return "with a milestone that left the plan";
  const approved = dueOn.approved === null ? "not approved" : `approved for ${dateWords(dueOn.approved)}`;
  return `${dateWords(dueOn.date)}, with “${milestone.name}”, ${approved}`;
}

const DAY = "day";
const kindOf = (due: GateDue | null): string => (due === null ? "" : "date" in due ? DAY : due.activity);

/** When a gate is due, to be said: on a day of its own, or with a milestone. */
function DueField({ view, gate, keeper }: Props) {
  const { due, stage } = gate;
  const write = (value: GateDue | null): void =>
    void keeper.writeOrTell({ field: "due", stage, was: due, value }, `When “${gate.gate}” is due is written.`);
  return (
    <>
      <select
        className="select select-xs w-56"
        aria-label="Due"
        value={kindOf(due)}
        onChange={(event) => {
          const to = event.target.value;
          write(to === "" ? null : to === DAY ? { date: gate.dueOn?.date ?? todayHere() } : { activity: to });
        }}
      >
        <option value="">on no day yet</option>
        <option value={DAY}>on a day of its own</option>
        <optgroup label="with a milestone">
          {view.milestones.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
          {due !== null && "activity" in due && !view.milestones.some(({ id }) => id === due.activity) && (
            <option value={due.activity}>{due.activity} (left the plan)</option>
          )}
        </optgroup>
      </select>{" "}
      {due !== null && "date" in due && (
        <DateField label="Day" small value={due.date} onDate={(date) => write({ date })} />
      )}
    </>
  );
}

function Due({ view, gate, keeper }: Props) {
  const { due, dueOn } = gate;
  const byMilestone = due !== null && "activity" in due;
  if (!view.mayEdit || gate.standing === "passed") return <>{dueWords(gate, view.milestones)}</>;
  return (
    <>
      <DueField view={view} gate={gate} keeper={keeper} />
      {byMilestone && dueOn !== null && (
        <span className="muted">
          {dateWords(dueOn.date)}
          {dueOn.approved !== null && `, approved for ${dateWords(dueOn.approved)}`}
        </span>
      )}
      {dueOn?.overdue === true && <span className="adverse"> overdue</span>}
    </>
  );
}

function Decider({ view, gate, keeper }: Props) {
  const { decider, stage } = gate;
  if (!view.mayEdit || gate.standing === "passed") return <>{decider?.name ?? "any approver"}</>;
  const listed = view.deciders.some(({ id }) => id === decider?.id);
  return (
    <select
      className="select select-xs w-56"
      aria-label="Decided by"
      value={decider?.id ?? ""}
      onChange={(event) => {
        const value = event.target.value === "" ? null : event.target.value;
        const written = { field: "decider", stage, was: decider?.id ?? null, value } as const;
        void keeper.writeOrTell(written, `Who decides “${gate.gate}” is written.`);
      }}
    >
      <option value="">any approver</option>
      {view.deciders.map(({ id, name }) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
      {decider !== null && !listed && <option value={decider.id}>{decider.name}, no approver any more</option>}
    </select>
  );
}

/** What waits for a decision at this gate, or may be asked for. */
function Next({ view, gate, keeper }: Props) {
  const { asked } = view;
  if (gate.standing === "passed") return null;
  if (gate.standing === "ahead")
    return <p className="muted pt-2 text-sm">It can be asked for once the gates before it are passed.</p>;
  if (asked === null) return view.mayEdit ? <AskGate gate={gate} keeper={keeper} /> : null;
  return (
    <section className="pt-3" aria-label="What is asked">
      <p>
        {asked.by} asked for it on {momentWords(asked.at)}
        {asked.word === "" ? "." : `: “${asked.word}”`}
      </p>
      {view.whyNot !== null && <p className="muted text-sm">{view.whyNot}</p>}
      {view.mayDecide && <DecideGate key={asked.id} gate={gate} asked={asked} keeper={keeper} />}
      {view.mayEdit && <Withdraw gate={gate} keeper={keeper} />}
    </section>
  );
}

const Withdraw = ({ gate, keeper }: Pick<Props, "gate" | "keeper">) => (
  <button type="button" className="btn btn-sm mt-2" onClick={() => void keeper.told(keeper.withdraw(gate.stage))}>
    Withdraw what is asked
  </button>
);

/** One stage and the gate that ends it: what must be true, when, who decides, and what is next. */
export function GatePart({ view, gate, keeper }: Props) {
  const { project = "" } = useParams();
  const { standing, passed } = gate;
  const confirm =
    view.mayConfirm && standing !== "passed"
      ? (condition: Gate["conditions"][number], isConfirmed: boolean): void =>
          void keeper.writeOrTell(
            { field: "confirmed", stage: gate.stage, condition: condition.id, was: !isConfirmed, value: isConfirmed },
            isConfirmed ? "It is confirmed." : "It is no longer confirmed.",
          )
      : undefined;
  return (
    <section className="pt-6" aria-label={`Gate ${gate.gate}`}>
      <h2 className="text-lg">
        {gate.gate} <span className="muted text-base font-normal">ends the stage {gate.name}</span>
      </h2>
      <dl className="grid max-w-3xl grid-cols-[8rem_1fr] items-baseline gap-y-1 py-2 text-sm">
        <dt className="muted">Due</dt>
        <dd>
          <Due view={view} gate={gate} keeper={keeper} />
        </dd>
        <dt className="muted">Decided by</dt>
        <dd>
          <Decider view={view} gate={gate} keeper={keeper} />
        </dd>
        <dt className="muted">Documents</dt>
        <dd>
          <DocumentList
            project={project}
            place={{ about: "gate", aboutId: gate.stage }}
            ask="what is laid before whoever decides"
          />
        </dd>
        <dt className="muted">Talk</dt>
        <dd>
          <TalkButton place={{ about: "gate", project, aboutId: gate.stage }} of={gate.gate} />
        </dd>
      </dl>
      {passed !== null && <p className="muted pb-1 text-sm">As it stood when it was decided:</p>}
      <Conditions conditions={gate.conditions} name={`What must be true at ${gate.gate}`} onConfirm={confirm} />
      <Next view={view} gate={gate} keeper={keeper} />
    </section>
  );
}
