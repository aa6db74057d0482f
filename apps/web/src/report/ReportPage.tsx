import type { ReportDraft } from "@chronometra/contract";
import type { Aspect } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { Link, useParams } from "react-router";
import { ExplainLimits } from "../cycle/explain.tsx";
import { projectCycleQuery } from "../cycle/queries.ts";
import { toast } from "../shared/messages/toast.ts";
import { call } from "../shared/session/api.ts";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { UnsavedGuard } from "../shared/dialogs/UnsavedGuard.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { dateWords } from "../shared/words/words.ts";
import { IssuedList } from "./IssuedList.tsx";
import { ReportDocuments } from "./ReportDocuments.tsx";
import { LayoutDialog } from "./write/LayoutDialog.tsx";
import { reportDraftQuery, reportPreviewQuery, reportsOf } from "./queries.ts";
import { Recipients } from "./write/Recipients.tsx";
import { ReportFiles } from "./ReportFiles.tsx";
import { ReportPaper } from "./ReportPaper.tsx";
import { WriteAspect } from "./write/WriteAspect.tsx";

/** The broken limits of a project, each to be explained here. */
function Explanations({ project }: { project: string }) {
  const cycle = useQuery(projectCycleQuery(project));
  if (cycle.data === undefined || cycle.data.broken.length === 0) return null;
  return (
    <section aria-label="Broken limits" className="border-t rule py-3">
      <h2 className="text-lg">Limits to explain</h2>
      <ExplainLimits project={cycle.data} />
    </section>
  );
}

function Write({ draft }: { draft: ReportDraft }) {
  const [unsaved, setUnsaved] = useState<ReadonlySet<Aspect>>(new Set());
  const onUnsaved = useCallback((aspect: Aspect, isUnsaved: boolean): void => {
    setUnsaved((before) => {
      if (before.has(aspect) === isUnsaved) return before;
      const after = new Set(before);
      if (!after.delete(aspect)) after.add(aspect);
      return after;
    });
  }, []);
  return (
    <>
      {unsaved.size > 0 && <UnsavedGuard what="The report" />}
      {draft.aspects.map((said) => (
        <WriteAspect
          key={said.aspect}
          of={draft.id}
          said={said}
          mayEdit={draft.mayEdit && !(draft.of === "project" && draft.issued)}
          lastNumber={draft.reports.find(({ number }) => number < draft.period!.number)?.number ?? null}
          onUnsaved={onUnsaved}
        />
      ))}
      {draft.of === "project" && <Explanations project={draft.id} />}
      <Recipients of={draft.id} />
    </>
  );
}

function Preview({ of }: { of: string }) {
  const preview = useQuery(reportPreviewQuery(of));
  return <Loaded query={preview}>{(content) => <ReportPaper content={content} isLive />}</Loaded>;
}

/** Issues the report; what it then says stays. */
function Issue({ draft }: { draft: ReportDraft }) {
  const client = useQueryClient();
  const issue = useMutation({
    mutationFn: () => call("POST /api/status-reports/:of", { params: { of: draft.id } }),
    onSuccess: () => {
      toast(`The report of period ${draft.period!.number} is issued.`);
      void client.invalidateQueries();
    },
  });
  return (
    <>
      <button
        type="button"
        className="btn btn-primary btn-sm"
        disabled={issue.isPending}
        onClick={() => issue.mutate()}
      >
        {draft.issued ? "Issue anew" : `Issue the report of period ${draft.period!.number}`}
      </button>
      {issue.error !== null && <Failure error={issue.error} />}
    </>
  );
}

const VIEWS = [
  ["", "Write"],
  ["preview", "As it will be read"],
  ["issued", "Issued"],
] as const;

function Draft({ draft }: { draft: ReportDraft }) {
  const [params, put] = useAddress();
  const asked = params.get("view") ?? "";
  const view = draft.period === null ? "issued" : asked;
  const { period, issued } = draft;
  return (
    <div className="page">
      <div className="flex flex-wrap items-center gap-3">
        <h1 className="text-xl">
          {period === null ? "Reports" : `Report of period ${period.number}, data date ${dateWords(period.dataDate)}`}
        </h1>
        <div role="group" aria-label="View" className="join">
          {VIEWS.map(([name, words]) => (
            <button
              key={name}
              type="button"
              className={`btn btn-sm join-item ${view === name ? "btn-active" : ""}`}
              aria-pressed={view === name}
              disabled={period === null && name !== "issued"}
              onClick={() => put({ view: name })}
            >
              {words}
            </button>
          ))}
        </div>
        {view === "preview" && <ReportFiles of={draft.id} number="open" edition="newest" />}
        {draft.of === "project" && period !== null && <ReportDocuments project={draft.id} number={period.number} />}
        {draft.of === "group" && <LayoutDialog of={draft.id} />}
        {draft.mayIssue && <Issue draft={draft} />}
      </div>
      {issued && period !== null && (
        <p className="mt-1">
          This report is issued.{" "}
          <Link className="underline" to={`${reportsOf(draft.of, draft.id)}/${period.number}`}>
            Read it
          </Link>
        </p>
      )}
      {draft.hindrance !== null && view !== "issued" && <p className="undecided mt-1 text-sm">{draft.hindrance}</p>}
      <div className="mt-3">
        {view === "preview" ? (
          <Preview of={draft.id} />
        ) : view === "issued" ? (
          <IssuedList draft={draft} />
        ) : (
          <Write draft={draft} />
        )}
      </div>
    </div>
  );
}

/** The open period's report of a project or a group: written, looked at as it will be read, issued. */
export function ReportPage() {
  const { project, group } = useParams();
  const of = (project ?? group)!;
  const draft = useQuery(reportDraftQuery(of));
  return <Loaded query={draft}>{(data) => <Draft key={of} draft={data} />}</Loaded>;
}
