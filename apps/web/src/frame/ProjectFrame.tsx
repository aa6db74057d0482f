import { PROJECT_STATE_WORDS, type ProjectLook } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { FileDown } from "lucide-react";
import { useEffect } from "react";
import { Link, Outlet, useLocation, useParams } from "react-router";
import { periodQuery } from "../cycle/queries.ts";
import { addressOf } from "../shared/session/api.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { useTitle } from "../shared/page/useTitle.ts";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { dateWords, driftTone, driftWords } from "../shared/words/words.ts";
import { projectQuery } from "../project/queries.ts";
import { useMe } from "../shared/session/session.ts";
import { opened } from "./find/recent.ts";
import { PlaceRow } from "./PlaceRow.tsx";
import { placesFor, PROJECT, projectIn, projectTitle, whereIs } from "./places.ts";
import { Announcements } from "../talk/announce/Announcements.tsx";

const FORMS = [
  { form: "xlsx", words: "Workbook (.xlsx)" },
  { form: "csv", words: "CSV files (.zip)" },
  { form: "json", words: "All that it holds (.json)" },
  { form: "json1", words: "Plan alone (.json)" },
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

/** The way to the open period's report, where that is still to be issued. */
function ToIssue({ look }: { look: ProjectLook }) {
  const { data: period } = useQuery(periodQuery);
  if (
    !look.mayEdit ||
    look.closed ||
    period?.number == null ||
    look.summary.baseline === null ||
    look.periods.some(({ number }) => number === period.number)
  )
    return null;
  return (
    <Link className="btn btn-sm" to={`/projects/${look.id}/report`}>
      Report of period {period.number}
    </Link>
  );
}

/** When the project will be done, and how that stands to what was approved. */
function Standing({ look }: { look: ProjectLook }) {
  const { summary, closed, state, stage } = look;
  const against = summary.baseline === null ? "not approved yet" : `against baseline ${summary.baseline}`;
  return (
    <p
      className="muted text-sm"
      title={[look.code, look.programme, look.manager, against].filter((words) => words !== null).join(" · ")}
    >
      {look.code}
      {closed && <strong className="font-semibold"> · closed</strong>}
      {!closed && state !== "running" && <strong className="font-semibold"> · {PROJECT_STATE_WORDS[state]}</strong>}
      {!closed && stage !== null && (
        <>
          {" "}
          ·{" "}
          <Link className="link-quiet" to={`/projects/${look.id}/stages`}>
            {stage}
          </Link>
        </>
      )}
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
  );
}

function Head({ look }: { look: ProjectLook }) {
  const me = useMe();
  const { summary } = look;
  const part = projectIn(useLocation().pathname)?.part ?? "";
  useTitle(`${look.code} ${projectTitle(part)}`);
  useEffect(
    () => opened({ to: `/projects/${look.id}`, name: look.name, aside: look.code, kind: "project" }),
    [look.id, look.name, look.code],
  );
  return (
    <>
      <div className="flex items-baseline gap-x-3 px-5 pt-1">
        <div className="paper-only text-sm">
          {look.code} {look.name}
          {summary.dataDate !== null && ` · data date ${dateWords(summary.dataDate)}`}
        </div>
        <Link to="/" className="muted shrink-0 text-sm underline print:hidden">
          All projects
        </Link>
        <div className="flex min-w-0 flex-wrap items-baseline gap-x-3">
          <h1 className="line-clamp-2 text-lg" title={look.name}>
            {look.name}
          </h1>
          <Standing look={look} />
        </div>
        <div className="ml-auto flex shrink-0 items-center gap-1">
          <ToIssue look={look} />
          <Export project={look.id} />
        </div>
      </div>
      {/* Its own page of talk has all of them. */}
      {part !== "talk" && (
        <div className="px-5 print:hidden">
          <Announcements project={look.id} />
        </div>
      )}
      <PlaceRow
        name="Project"
        places={placesFor(PROJECT, me)}
        here={whereIs(PROJECT, part)}
        addressOf={(to) => (to === "" ? `/projects/${look.id}` : `/projects/${look.id}/${to}`)}
      />
    </>
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
          <div className="relative min-h-0 flex-1 overflow-auto">
            <Outlet context={look} />
          </div>
        </div>
      )}
    </Loaded>
  );
}
