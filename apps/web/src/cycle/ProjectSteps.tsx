import type { ProjectCycle } from "@chronometra/contract";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { momentWords } from "../shared/words/words.ts";
import { BrokenLimits, Say, useStepActs } from "./explain.tsx";

/** What stands beside each step of the cycle: the way to what it waits for, or what ends it. */
function useStepTools(project: ProjectCycle, number: number) {
  const controller = holds(useMe(), "controller");
  const { act, marked } = useStepActs(project);
  const params = { project: project.id };
  const tools: Partial<Record<string, ReactNode>> = {
    Collect: (
      <Link className="text-sm underline" to={`/cycle/missing?project=${project.id}`}>
        Who
      </Link>
    ),
    Chase: controller && (
      <Link className="text-sm underline" to={`/cycle/missing?project=${project.id}&show=unreminded`}>
        Remind them
      </Link>
    ),
    Review: project.mayEdit && (
      <Link className="text-sm underline" to={`/time?project=${project.id}`}>
        Review them
      </Link>
    ),
    Recalculate: (
      <Link className="text-sm underline" to={`/projects/${project.id}/plan`}>
        The plan
      </Link>
    ),
    Check: (
      <>
        {project.findings.length > 0 && (
          <Link className="undecided text-sm underline" to={`/projects/${project.id}/trust`}>
            {project.findings.join("; ")}
          </Link>
        )}
        {marked({ step: "Check" }, project.checked, "What the check came to", "what the check came to")}
      </>
    ),
    Explain: project.broken.length > 0 && <BrokenLimits project={project} marked={marked} />,
    Issue: project.takesPart && (
      <Link className="text-sm underline" to={`/projects/${project.id}/report${project.issued ? `/${number}` : ""}`}>
        {project.issued ? "Read the report" : project.mayEdit ? "Write the report and issue it" : "The report so far"}
      </Link>
    ),
    Lock:
      controller &&
      project.takesPart &&
      (project.locked ? (
        <Say
          label={`Why period ${number} of ${project.name} is opened again`}
          placeholder="why it is opened again"
          action="Open again"
          pending={act.isPending}
          onSay={(reason) =>
            act.mutate({
              work: () => call("POST /api/projects/:project/reopen", { params, body: { reason } }),
              said: `Period ${number} is open again for ${project.name}.`,
            })
          }
        />
      ) : (
        <Link className="btn btn-sm" to={`/cycle/lock?project=${project.id}`}>
          Lock …
        </Link>
      )),
  };
  return { tools, error: act.error };
}

/** Each step of the cycle of one project, what it waits for, and what can be done about it. */
export function ProjectSteps({ project, number }: { project: ProjectCycle; number: number }) {
  const { tools, error } = useStepTools(project, number);
  return (
    <div>
      {!project.takesPart && (
        <p className="muted">
          {project.closed
            ? "This project is closed."
            : "Without an approved plan there is nothing to measure, so it takes no part in the period."}
        </p>
      )}
      <dl>
        {project.steps.map((step) => (
          <div key={step.name} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-b rule py-1">
            <dt className="w-24 font-semibold">{step.name}</dt>
            <dd className="flex flex-1 flex-wrap items-center gap-x-3 gap-y-1">
              <span className={step.open > 0 ? "undecided" : step.words === "done" ? "favourable" : "muted"}>
                {step.open > 0 ? step.words : step.words === "done" ? "✓ done" : step.words}
              </span>
              {step.waitsFor.length > 0 && <span className="muted text-sm">waits for {step.waitsFor.join(", ")}</span>}
              {tools[step.name]}
            </dd>
          </div>
        ))}
      </dl>
      {error !== null && <Failure error={error} />}
      {project.lockedWord !== null && (
        <p className="pt-1 text-sm">
          Locked all the same: “{project.lockedWord.words}”{" "}
          <span className="muted">
            {project.lockedWord.by}, {momentWords(project.lockedWord.at)}
          </span>
        </p>
      )}
      {project.reopened.map(({ number: which, by, at, reason }) => (
        <p key={at} className="muted pt-1 text-sm">
          Period {which} was opened again by {by} on {momentWords(at)}: “{reason}”
        </p>
      ))}
    </div>
  );
}
