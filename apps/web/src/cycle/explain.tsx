import type { BrokenLimit, ProjectCycle } from "@chronometra/contract";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type ReactNode } from "react";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { momentWords } from "../shared/words/words.ts";
import { LimitLink } from "./BrokenLimits.tsx";

/** A step that is done by saying something of it. */
export function Say({
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
export function useStepActs(project: ProjectCycle) {
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

type MarkedBy = ReturnType<typeof useStepActs>["marked"];

/** The limits that a project breaks, each with how that is explained or where to explain it. */
export const BrokenLimits = ({ project, marked }: { project: ProjectCycle; marked: MarkedBy }) => (
  <ul className="w-full" aria-label="Broken limits">
    {project.broken.map((limit) => (
      <li key={limit.rule} className="flex flex-wrap items-center gap-x-3 gap-y-1 py-0.5">
        <LimitLink project={project.id} limit={limit} />
        {marked({ step: "Explain", rule: limit.rule }, limit.explanation, `Why ${limit.words}`, "why, in a few words")}
      </li>
    ))}
  </ul>
);

/** Broken limits where nothing else of the cycle stands. */
export function ExplainLimits({ project }: { project: ProjectCycle }) {
  const { act, marked } = useStepActs(project);
  return (
    <>
      <BrokenLimits project={project} marked={marked} />
      {act.error !== null && <Failure error={act.error} />}
    </>
  );
}
