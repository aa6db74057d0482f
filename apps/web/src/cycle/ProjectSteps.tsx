import type { BrokenLimit, ProjectCycle } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { momentWords } from "../shared/words/words.ts";
import { LimitLink } from "./BrokenLimits.tsx";

/** A step that is done by saying something of it. */
function Say({
  label,
  placeholder,
  action,
  pending,
  onSay,
}: {
  label: string;
  placeholder: string;
  action: string;
  pending: boolean;
  onSay: (words: string) => void;
}) {
  const [words, setWords] = useState("");
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        onSay(words);
      }}
    >
      <input
        className="input input-sm w-72"
        aria-label={label}
        placeholder={placeholder}
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      <button className="btn btn-sm" disabled={pending || words.trim() === ""}>
        {action}
      </button>
    </form>
  );
}

function Marked({ mark, onUndo }: { mark: NonNullable<ProjectCycle["checked"]>; onUndo: (() => void) | null }) {
  return (
    <span className="text-sm">
      “{mark.words}”{" "}
      <span className="muted">
        {mark.by}, {momentWords(mark.at)}
      </span>{" "}
      {onUndo !== null && (
        <button type="button" className="btn btn-xs" onClick={onUndo}>
          Withdraw
        </button>
      )}
    </span>
  );
}

/** What can be done about a project's steps, and how that went. */
function useStepActs(project: ProjectCycle) {
  const client = useQueryClient();
  const params = { project: project.id };
  const act = useMutation({
    mutationFn: ({ work }: { work: () => Promise<unknown>; said: string }) => work(),
    onSuccess: (_done, { said }) => {
      toast(said);
      void client.invalidateQueries();
    },
  });
  const mark = (of: { step: "Check" } | { step: "Explain"; rule: BrokenLimit["rule"] }, words: string): void =>
    act.mutate({
      work: () => call("PUT /api/projects/:project/cycle", { params, body: { ...of, words } }),
      said:
        words === ""
          ? "Taken back."
          : of.step === "Check"
            ? `Check is done for ${project.name}.`
            : `Explained for ${project.name}.`,
    });
  const mayMark = project.mayEdit && project.takesPart;
  const marked = (
    of: Parameters<typeof mark>[0],
    found: ProjectCycle["checked"],
    label: string,
    placeholder: string,
  ): ReactNode =>
    found !== null ? (
      <Marked mark={found} onUndo={mayMark ? () => mark(of, "") : null} />
    ) : (
      mayMark && (
        <Say
          label={label}
          placeholder={placeholder}
          action="Done"
          pending={act.isPending}
          onSay={(words) => mark(of, words)}
        />
      )
    );
  return { act, marked };
}

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
    Explain: project.broken.length > 0 && (
      <ul className="w-full" aria-label="Broken limits">
        {project.broken.map((limit) => (
          <li key={limit.rule} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-0.5">
            <LimitLink project={project.id} limit={limit} />
            {marked(
              { step: "Explain", rule: limit.rule },
              limit.explanation,
              `Why ${limit.words}`,
              "why, in a few words",
            )}
          </li>
        ))}
      </ul>
    ),
    Issue: project.mayEdit && project.takesPart && !project.issued && (
      <button
        type="button"
        className="btn btn-sm"
        disabled={act.isPending}
        onClick={() =>
          act.mutate({
            work: () => call("POST /api/projects/:project/periods", { params }),
            said: `Period ${number} is issued for ${project.name}.`,
          })
        }
      >
        Issue
      </button>
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
