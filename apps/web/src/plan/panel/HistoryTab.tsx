import { THROUGH_WORDS, type ActivityHistory } from "@chronometra/contract";
import { useInfiniteQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { momentWords } from "../../shared/words/words.ts";
import type { Sheet } from "../engine/sheet.ts";
import { activityHistoryQuery } from "../queries.ts";
import { OlderButton } from "../../shared/page/OlderButton.tsx";

interface Props {
  readonly activity: string;
  /** The field that the chosen cell shows, by its name in the plan; `null` of one that is computed. */
  readonly field: string | null;
  /** The plan as it stands: once it is another, what was stored since is asked for. */
  readonly sheet: Sheet;
}

/** About as long as it takes until a change has been stored. */
const STORED_MILLISECONDS = 1000;

type Stored = ActivityHistory["lists"][number];

const lastPart = (path: string): string => path.slice(path.lastIndexOf("/") + 1);

/** One list that was stored: when, by whom, through what, and what it made of each field. */
function StoredLines({ stored, project, name }: { stored: Stored; project: string; name: boolean }) {
  const { revision, at, by, through, lines, takenBack } = stored;
  return (
    <li className={`border-b rule py-1.5 ${takenBack ? "muted" : ""}`}>
      <p className="muted text-xs">
        <Link className="link-quiet" to={`/projects/${project}/history?revision=${revision}`}>
          {momentWords(at)}
        </Link>
        , {by}, {THROUGH_WORDS[through]}
        {takenBack && ", undone since"}
      </p>
      <ul>
        {lines.map(({ path, what, field, was, is }) => (
          <li key={path} className="break-words">
            {(name || field === "") && <span>{field === "" ? what : field}: </span>}
            {was !== "–" && <span className="muted">{was} → </span>}
            {is}
          </li>
        ))}
      </ul>
    </li>
  );
}

function Lists({ lists, project, first }: { lists: readonly Stored[]; project: string; first: string | null }) {
  const [chosen, setChosen] = useState<string | null>(first);
  const fields = new Map<string, string>();
  for (const { lines } of lists)
    for (const { path, field } of lines) if (field !== "") fields.set(lastPart(path), field);
  const only = chosen !== null && fields.has(chosen) ? chosen : null;
  const shown = lists.flatMap((stored) => {
    const lines = only === null ? stored.lines : stored.lines.filter(({ path }) => lastPart(path) === only);
    return lines.length === 0 ? [] : [{ ...stored, lines }];
  });
  if (lists.length === 0) return <p className="muted">Nothing has happened to it since it came into the plan.</p>;
  return (
    <>
      <select
        className="select select-xs w-60"
        aria-label="Which field"
        value={only ?? ""}
        onChange={(event) => setChosen(event.target.value === "" ? null : event.target.value)}
      >
        <option value="">everything about it</option>
        {[...fields].map(([id, field]) => (
          <option key={id} value={id}>
            {field}
          </option>
        ))}
      </select>
      {first !== null && !fields.has(first) && (
        <p className="muted pt-1">What the selected cell shows was never changed by anyone.</p>
      )}
      <ol aria-label="History of the activity">
        {shown.map((stored) => (
          <StoredLines key={stored.revision} stored={stored} project={project} name={only === null} />
        ))}
      </ol>
    </>
  );
}

/** What became of the chosen activity: what was and what is, who, when and through what; of the chosen cell first. */
export function HistoryTab({ activity, field, sheet }: Props) {
  const project = useParams()["project"]!;
  const query = useInfiniteQuery(activityHistoryQuery(project, activity));
  const { refetch } = query;
  useEffect(() => {
    const timer = setTimeout(() => void refetch(), STORED_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [sheet, refetch]);
  return (
    <Loaded query={query}>
      {({ pages }) => (
        <>
          <Lists
            key={`${activity} ${field}`}
            lists={pages.flatMap(({ lists }) => lists)}
            project={project}
            first={field}
          />
          <OlderButton query={query} />
        </>
      )}
    </Loaded>
  );
}
