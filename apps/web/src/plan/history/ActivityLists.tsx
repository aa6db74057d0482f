import { THROUGH_WORDS, type ActivityHistory } from "@chronometra/contract";
import { useState } from "react";
import { Link } from "react-router";
import { momentWords } from "../../shared/words/words.ts";

type Stored = ActivityHistory["lists"][number];

/** The name of a field in its path. */
const lastPart = (path: string): string => path.slice(path.lastIndexOf("/") + 1);

/** One list that was stored: when, by whom, through what, and what it made of each field. */
function StoredLines({ stored, project, name }: { stored: Stored; project: string | null; name: boolean }) {
  const { revision, at, by, through, lines, takenBack } = stored;
  return (
    <li className={`border-b rule py-1.5 ${takenBack ? "muted" : ""}`}>
      <p className="muted text-xs">
        {project === null ? (
          momentWords(at)
        ) : (
          <Link className="link-quiet" to={`/projects/${project}/history?revision=${revision}`}>
            {momentWords(at)}
          </Link>
        )}
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

interface Props {
  readonly lists: readonly Stored[];
  /** The project whose history opens; `null` for whoever does not see that. */
  readonly project: string | null;
  /** The field that is told first. */
  readonly first: string | null;
}

/** What became of an activity, list by list, of one field or of all. */
export function ActivityLists({ lists, project, first }: Props) {
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
