import { CYCLE_STEPS, type Cycle, type CycleStep, type ProjectCycle } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Link } from "react-router";
import type { Column } from "../shared/table/column.ts";
import { DataTable } from "../shared/table/DataTable.tsx";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { holds, holdsEverywhere, useMe } from "../shared/session/session.ts";
import { useAddress } from "../shared/page/useAddress.ts";
import { countWords, dateWords } from "../shared/words/words.ts";
import { CycleTools } from "./CycleTools.tsx";
import { ProjectSteps } from "./ProjectSteps.tsx";
import { cycleQuery } from "./queries.ts";
import { ReportingCalendar } from "./ReportingCalendar.tsx";

const stepOf = (project: ProjectCycle, name: CycleStep) => project.steps.find((step) => step.name === name)!;

/**
 * What a step counts of a project: the people, the reports, the plan, what is wrong with it; else what is done about
 * it.
 */
function rowsBehind(step: CycleStep, project: string): string {
  switch (step) {
    case "Collect":
      return `/cycle/missing?project=${project}`;
    case "Chase":
      return `/cycle/missing?project=${project}&show=unreminded`;
    case "Review":
      return `/time?project=${project}`;
    case "Recalculate":
      return `/projects/${project}/plan`;
    default:
      return `/cycle?project=${project}`;
  }
}

function columnsOf(onOpen: (id: string) => void): readonly Column<ProjectCycle>[] {
  return [
    {
      id: "name",
      head: "Project",
      value: ({ code, name }) => `${code} ${name}`,
      show: ({ id, code, name }) => (
        <Link className="link-quiet" to={`/projects/${id}`}>
          <span className="muted">{code}</span> {name}
        </Link>
      ),
    },
    { id: "manager", head: "Manager", value: ({ manager }) => manager, hidden: true },
    ...CYCLE_STEPS.map((name): Column<ProjectCycle> => ({
      id: name,
      head: name,
      value: (project) => stepOf(project, name).words,
      show: (project) => {
        const { open, words, waitsFor } = stepOf(project, name);
        if (open === 0)
          return <span className={words === "done" ? "favourable" : "muted"}>{words === "done" ? "✓" : words}</span>;
        return (
          <Link className="undecided link-quiet" title={waitsFor.join(", ")} to={rowsBehind(name, project.id)}>
            {words}
          </Link>
        );
      },
      total: (projects) =>
        `${projects.filter((project) => project.takesPart && stepOf(project, name).open === 0).length} of ${projects.filter(({ takesPart }) => takesPart).length}`,
    })),
    {
      id: "waits",
      head: "Waits for",
      wraps: true,
      value: (project) => [...new Set(project.steps.flatMap(({ waitsFor }) => waitsFor))].slice(0, 4).join(", "),
      hidden: true,
    },
    {
      id: "steps",
      head: "Steps",
      tool: true,
      value: () => null,
      show: ({ id, name }) => (
        <button type="button" className="btn btn-xs" aria-label={`Steps of ${name}`} onClick={() => onOpen(id)}>
          Steps
        </button>
      ),
    },
  ];
}

/** Leads to what would be locked, as long as something is not. */
function LockLink({ projects, number }: { projects: readonly ProjectCycle[]; number: number }) {
  const open = projects.filter(({ takesPart, locked }) => takesPart && !locked).length;
  return open === 0 ? null : (
    <Link className="btn btn-primary btn-sm" to="/cycle/lock">
      Lock period {number} …
    </Link>
  );
}

function Projects({ cycle }: { cycle: Cycle }) {
  const me = useMe();
  const [params, put] = useAddress();
  const set = (name: string, value: string | null): void => put({ [name]: value });
  const step = CYCLE_STEPS.find((name) => name === params.get("step")) ?? null;
  const shown = useMemo(
    () => (step === null ? cycle.projects : cycle.projects.filter((project) => stepOf(project, step).open > 0)),
    [cycle, step],
  );
  const columns = useMemo(() => columnsOf((id) => put({ project: id })), [put]);
  const chosen = cycle.projects.find(({ id }) => id === params.get("project"));
  const controller = holds(me, "controller");
  return (
    <div className="page">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 pb-2">
        <h1 className="text-xl">
          {cycle.number === null
            ? "No reporting period is open"
            : `Period ${cycle.number}, to ${dateWords(cycle.dataDate)}`}
        </h1>
        {step !== null && (
          <span className="undecided text-sm">
            {countWords(shown.length, "project", "projects")} with something to {step.toLowerCase()}.{" "}
            <button type="button" className="underline cursor-pointer" onClick={() => set("step", null)}>
              Show all
            </button>
          </span>
        )}
        {controller && (
          <span className="ml-auto flex flex-wrap items-center gap-2">
            <CycleTools />
            {cycle.number !== null && <LockLink projects={cycle.projects} number={cycle.number} />}
          </span>
        )}
      </div>
      <DataTable
        name="The cycle by project"
        rows={shown}
        columns={columns}
        rowKey={({ id }) => id}
        totalName="Done"
        empty={
          step === null ? (
            <>
              There are no projects yet.{" "}
              <Link className="underline" to="/import">
                Bring a plan
              </Link>
            </>
          ) : (
            "Nothing is open in this step."
          )
        }
      />
      <ReportingCalendar mayPlan={holdsEverywhere(me, "controller")} />
      {chosen !== undefined && cycle.number !== null && (
        <Dialog title={`${chosen.code} ${chosen.name}: period ${cycle.number}`} onClose={() => set("project", null)}>
          <ProjectSteps project={chosen} number={cycle.number} />
        </Dialog>
      )}
    </div>
  );
}

/** The steps of the open period for every project, and the reporting calendar. */
export function CyclePage() {
  return <Loaded query={useQuery(cycleQuery)}>{(cycle) => <Projects cycle={cycle} />}</Loaded>;
}
