import type { CharterView } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { MakeTemplate } from "../begin/templates/MakeTemplate.tsx";
import { useProject } from "../project/useProject.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { holds, useMe } from "../shared/session/session.ts";
import { momentWords } from "../shared/words/words.ts";
import { Benefits } from "./Benefits.tsx";
import { DocumentsPart } from "./DocumentsPart.tsx";
import { Deliverables } from "./Deliverables.tsx";
import { HeadPart } from "./HeadPart.tsx";
import { charterQuery, useCharter } from "./useCharter.ts";
import { WhoPart } from "./WhoPart.tsx";
import { WordsPart } from "./WordsPart.tsx";
import { LongText } from "./Written.tsx";

/** What else may be begun with this project. */
function Onwards({ view: { id, head } }: { view: CharterView }) {
  const [making, setMaking] = useState(false);
  if (!holds(useMe(), "controller", "projectManager")) return null;
  return (
    <p className="flex flex-wrap gap-2 pt-6">
      <Link className="btn btn-sm" to={`/begin/from?with=project:${id}`}>
        Begin a copy
      </Link>
      <button type="button" className="btn btn-sm" onClick={() => setMaking(true)}>
        Make a template …
      </button>
      {making && <MakeTemplate project={{ id, name: head.name }} onClose={() => setMaking(false)} />}
    </p>
  );
}

function Charter({ view }: { view: CharterView }) {
  const charterer = useCharter(view);
  const shared = { view, charterer };
  return (
    <div className="page">
      <div className="grid grid-cols-1 gap-x-12 gap-y-3 lg:grid-cols-2">
        <HeadPart {...shared} />
        <WhoPart {...shared} />
      </div>
      <section className="pt-4">
        <h2 className="text-base">Why and within what</h2>
        <LongText
          {...shared}
          field="purpose"
          name="Purpose"
          ask="what it is for, and what would be missing without it"
        />
        <LongText
          {...shared}
          field="assumptions"
          name="Assumptions"
          ask="what is taken for granted, and would change the plan"
        />
        <LongText
          {...shared}
          field="constraints"
          name="Constraints"
          ask="what it has to keep to: dates, money, rules, places"
        />
      </section>
      <Benefits {...shared} />
      <Deliverables {...shared} />
      <DocumentsPart view={view} />
      <WordsPart {...shared} />
      <Onwards view={view} />
      {view.log.length > 0 && (
        <details className="pt-4">
          <summary className="cursor-pointer text-base">What was written here</summary>
          <ul className="max-w-4xl text-sm">
            {view.log.map(({ at, by, what }) => (
              <li key={`${at} ${what}`} className="border-b rule py-0.5">
                <span className="muted">
                  {momentWords(at)} {by}:
                </span>{" "}
                {what}
              </li>
            ))}
          </ul>
        </details>
      )}
    </div>
  );
}

/** A project as such: its head, who answers for it, why it is, and what comes of it. */
export function CharterPage() {
  const { id } = useProject();
  const query = useQuery(charterQuery(id));
  return <Loaded query={query}>{(view) => <Charter view={view} />}</Loaded>;
}
