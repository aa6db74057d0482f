import type { DeadlineLine, MilestoneLine } from "@chronometra/contract";
import { Link } from "react-router";
import { useProject } from "../portfolio/ProjectFrame.tsx";
import type { Column } from "../shared/column.ts";
import { DataTable } from "../shared/DataTable.tsx";
import { Toned } from "../shared/Toned.tsx";
import { dateWords, DEADLINE_ORDER, DEADLINE_TONES, DEADLINE_WORDS, driftTone, driftWords, marginWords } from "../shared/words.ts";

const inPlan = (project: string, activity: string, name: string) => <Link className="link-quiet" to={`/projects/${project}/plan?at=${encodeURIComponent(activity)}`}>{name}</Link>;

const milestoneColumns = (project: string): Column<MilestoneLine>[] => [
  { id: "name", head: "Milestone", value: ({ name }) => name, show: ({ id, name }) => inPlan(project, id, name) },
  { id: "baseline", head: "Approved", value: ({ baseline }) => baseline, show: ({ baseline }) => dateWords(baseline) },
  { id: "forecast", head: "Now", value: ({ forecast }) => forecast, show: ({ forecast, reached }) => `${dateWords(forecast)}${reached ? ", reached" : ""}` },
  { id: "drift", head: "Drift", numeric: true, value: ({ drift }) => drift, show: ({ drift }) => <Toned tone={driftTone(drift)}>{driftWords(drift)}</Toned> },
  { id: "deadline", head: "Deadline", value: ({ deadline }) => deadline, show: ({ deadline }) => dateWords(deadline) },
];

const deadlineColumns = (project: string): Column<DeadlineLine>[] => [
  { id: "name", head: "Promised", value: ({ name }) => name, show: ({ id, name }) => inPlan(project, id, name) },
  { id: "deadline", head: "Deadline", value: ({ deadline }) => deadline, show: ({ deadline }) => dateWords(deadline) },
  { id: "finish", head: "Finishes", value: ({ finish }) => finish, show: ({ finish }) => dateWords(finish) },
  { id: "margin", head: "Margin", hint: "Working days between finish and deadline", numeric: true, value: ({ marginDays }) => marginDays, show: ({ marginDays }) => marginWords(marginDays) },
  { id: "state", head: "State", value: ({ state }) => DEADLINE_ORDER.indexOf(state), show: ({ state }) => <Toned tone={DEADLINE_TONES[state]} marked>{DEADLINE_WORDS[state]}</Toned> },
];

/** Milestones with their drift, deadlines with their margin. */
export function DatesPage() {
  const { id, summary } = useProject();
  return (
    <div className="page max-w-5xl">
      <h2 className="pb-1 text-base">Milestones</h2>
      <DataTable name="Milestones" rows={summary.milestones} columns={milestoneColumns(id)} rowKey={(row) => row.id} empty="The plan has no milestones. A milestone is an activity without duration at which something can be said to be reached." />
      <h2 id="deadlines" className="pt-6 pb-1 text-base">Deadlines</h2>
      <DataTable name="Deadlines" rows={summary.deadlines} columns={deadlineColumns(id)} rowKey={(row) => row.id} empty="No activity carries a deadline. Give one in the plan's Deadline column." />
    </div>
  );
}
