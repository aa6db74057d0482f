import type { ProjectLook } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { FileDown } from "lucide-react";
import { NavLink, Outlet, useLocation, useParams } from "react-router";
import { toast } from "sonner";
import { periodQuery } from "../cycle/queries.ts";
import { addressOf, call } from "../shared/api.ts";
import { Loaded } from "../shared/Failure.tsx";
import { useTitle } from "../shared/useTitle.ts";
import { Toned } from "../shared/Toned.tsx";
import { dateWords, driftTone, driftWords } from "../shared/words.ts";
import { projectQuery } from "../project/queries.ts";

const TABS = [
  { to: "", name: "Figures" },
  { to: "performance", name: "Performance" },
  { to: "plan", name: "Plan" },
  { to: "board", name: "Board" },
  { to: "resources", name: "Resources" },
  { to: "dates", name: "Dates" },
  { to: "chances", name: "Chances" },
  { to: "trust", name: "Trust" },
  { to: "approvals", name: "Approvals" },
  { to: "history", name: "History" },
  { to: "closing", name: "Closing" },
];

const FORMS = [
  { form: "xlsx", words: "Workbook (.xlsx)" },
  { form: "csv", words: "CSV files (.zip)" },
  { form: "json", words: "Plan bundle (.json)" },
];

function Export({ project }: { project: string }) {
  return (
    <details className="relative">
      <summary className="btn btn-ghost btn-sm list-none px-2">
        <FileDown size={14} aria-hidden="true" /> Export
      </summary>
      <ul className="absolute right-0 z-30 mt-1 w-48 border rule bg-base-100 py-1">
        {FORMS.map(({ form, words }) => (
          <li key={form}>
            <a
              className="block px-3 py-1 hover:bg-base-200"
              download
              href={addressOf("GET /api/projects/:project/export/:form", { project, form })}
            >
              {words}
            </a>
          </li>
        ))}
      </ul>
    </details>
  );
}

/** Issues the project's figures for the open period, where that is still to be done. */
function Issue({ look }: { look: ProjectLook }) {
  const client = useQueryClient();
  const { data: period } = useQuery(periodQuery);
  const issue = useMutation({
    mutationFn: () => call("POST /api/projects/:project/periods", { params: { project: look.id } }),
    onSuccess: () => {
      toast(`Period ${period?.number} is issued for ${look.name}; its figures stay as they are now.`);
      void client.invalidateQueries();
    },
    onError: (error) => toast.error(error.message),
  });
  if (
    !look.mayEdit ||
    period?.number == null ||
    look.summary.baseline === null ||
    look.periods.some(({ number }) => number === period.number)
  )
    return null;
  return (
    <button type="button" className="btn btn-sm" disabled={issue.isPending} onClick={() => issue.mutate()}>
      Issue period {period.number}
    </button>
  );
}

function Head({ look }: { look: ProjectLook }) {
  const { summary } = look;
  const part = useLocation().pathname.split("/")[3] ?? "";
  useTitle(`${look.code} ${TABS.find(({ to }) => to === part)?.name ?? look.name}`);
  const against = summary.baseline === null ? "not approved yet" : `against baseline ${summary.baseline}`;
  return (
    <div className="flex flex-wrap items-baseline gap-x-5 border-b rule px-5 pt-1">
      <div className="paper-only text-sm">
        {look.code} {look.name}
        {summary.dataDate !== null && ` · data date ${dateWords(summary.dataDate)}`}
      </div>
      <div className="flex flex-wrap items-baseline gap-x-3">
        <h1 className="text-lg">{look.name}</h1>
        <p
          className="muted text-sm"
          title={[look.code, look.programme, look.manager, against].filter((words) => words !== null).join(" · ")}
        >
          {look.code}
          {summary.finish !== null && (
            <>
              {" "}
              · <span className="whitespace-nowrap">finishes {dateWords(summary.finish)}</span>
            </>
          )}
          {summary.drift !== null && (
            <>
              ,{" "}
              <span className="whitespace-nowrap">
                <Toned tone={driftTone(summary.drift)}>{driftWords(summary.drift)}</Toned>
              </span>
            </>
          )}
          {summary.baseline === null && ` · ${against}`}
        </p>
      </div>
      <div className="flex grow flex-wrap items-center justify-between gap-x-4">
        <nav aria-label="Project" className="flex flex-wrap gap-x-3.5">
          {TABS.map(({ to, name }) => (
            <NavLink
              key={name}
              to={to === "" ? `/projects/${look.id}` : `/projects/${look.id}/${to}`}
              end
              className={({ isActive }) =>
                `border-b-2 py-1 ${isActive ? "border-accent font-semibold" : "border-transparent muted hover:border-base-300"}`
              }
            >
              {name}
            </NavLink>
          ))}
        </nav>
        <div className="flex shrink-0 items-center gap-1">
          <Issue look={look} />
          <Export project={look.id} />
        </div>
      </div>
    </div>
  );
}

/** A project's name, how it stands, and its pages. */
export function ProjectFrame() {
  const { project = "" } = useParams();
  const query = useQuery(projectQuery(project));
  return (
    <Loaded query={query}>
      {(look) => (
        <div className="flex h-full min-h-0 flex-col">
          <Head look={look} />
          <div className="min-h-0 flex-1 overflow-auto">
            <Outlet context={look} />
          </div>
        </div>
      )}
    </Loaded>
  );
}
