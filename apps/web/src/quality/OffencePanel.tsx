import type { QualityView } from "@chronometra/contract";
import { useState } from "react";
import { Link } from "react-router";
import { dateWords, movedWords } from "../shared/words/words.ts";
import { mendAt } from "./mendAt.ts";
import { MendPart } from "./MendPart.tsx";

type Check = QualityView["checks"][number];
type Finding = QualityView["findings"][number];

interface Props {
  readonly project: string;
  readonly quality: QualityView;
  readonly about: Check | Finding;
}

const isCheck = (about: Check | Finding): about is Check => "number" in about;

/** The number of the critical path test, and of the first check that is an index. */
const PATH_TEST = 12;
const FIRST_INDEX = 13;

/** Why a check or finding names nobody. */
function nobodyWords(about: Check | Finding): string {
  if (!isCheck(about)) return "Nothing: it holds for all.";
  if (about.passes === null) return "There is nothing to count.";
  return about.number >= FIRST_INDEX
    ? "It is an index of the whole plan and names nobody."
    : "Nothing: it holds for all.";
}

/** What a check came to, against its limit. */
function Measured({ check: { passes, words, limit, published } }: { check: Check }) {
  return (
    <p className="pt-1 text-sm">
      <span className={passes === false ? "adverse" : passes === true ? "favourable" : "muted"}>{words}</span>, {limit}
      {published !== null && <span className="muted"> (published: {published})</span>}
    </p>
  );
}

/** The answer of the critical path test, and the way to see it in the time chart. */
function PathTest({ project, test }: { project: string; test: NonNullable<QualityView["pathTest"]> }) {
  return (
    <p className="text-sm">
      With {test.name} {test.addedDays} d longer, the finish goes from {dateWords(test.finish)} to{" "}
      {dateWords(test.then)}, {movedWords(test.movedDays)}.{" "}
      <Link className="underline" to={`/projects/${project}/plan?lit=test&at=${encodeURIComponent(test.id)}`}>
        See it in the time chart
      </Link>
    </p>
  );
}

/**
 * What a check or finding names: why it matters, each activity with what offends, the way to mend it, and many at once.
 */
export function OffencePanel({ project, quality, about }: Props) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const rows = [...new Map(about.offences.map((each) => [`${each.id} ${each.words}`, each])).values()];
  const ids = [...new Set(rows.map(({ id }) => id))];
  const chosen = ids.filter((id) => !left.has(id));
  const isPathTest = isCheck(about) && about.number === PATH_TEST;
  const many = quality.mayEdit && about.mendMany !== null && rows.length > 0;
  const tick = (of: readonly string[], on: boolean): void =>
    setLeft((was) => {
      const next = new Set(was);
      for (const id of of)
        if (on) next.delete(id);
        else next.add(id);
      return next;
    });
  return (
    <aside aria-label={about.name} className="w-[27rem] shrink-0 overflow-auto border-l rule px-4 py-3" tabIndex={0}>
      <h2 className="text-base">{about.name}</h2>
      {isCheck(about) && <p className="pt-1 text-sm">{about.counts}</p>}
      <p className="muted pt-1 text-sm">{about.why}</p>
      {isCheck(about) && <Measured check={about} />}
      {isPathTest && quality.pathTest !== null && <PathTest project={project} test={quality.pathTest} />}
      <h3 className="mt-2 flex items-baseline gap-2 border-b rule text-sm">
        {isPathTest ? "What was made longer" : "Named"} <span className="muted font-sans">{rows.length}</span>
        {many && rows.length > 1 && (
          <label className="ml-auto flex items-center gap-1.5 font-sans">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={chosen.length === ids.length}
              onChange={(event) => tick(ids, event.target.checked)}
            />
            all
          </label>
        )}
      </h3>
      <ul className="max-h-96 overflow-auto text-sm" tabIndex={0} aria-label={`Named by ${about.name}`}>
        {rows.map(({ id, name, words, mend }) => (
          <li key={`${id} ${words}`} className="flex min-h-[24px] items-baseline gap-2 border-b rule py-0.5">
            {many && (
              <input
                type="checkbox"
                className="checkbox checkbox-xs self-center"
                aria-label={`Mend ${name}`}
                checked={!left.has(id)}
                onChange={(event) => tick([id], event.target.checked)}
              />
            )}
            <Link className="link-quiet" to={mendAt(project, id, mend)}>
              {name}
            </Link>
            <span className="muted ml-auto text-right">{words}</span>
          </li>
        ))}
        {rows.length === 0 && <li className="muted py-1">{nobodyWords(about)}</li>}
      </ul>
      {many && (
        <MendPart
          key={about.name}
          project={project}
          mend={about.mendMany!}
          chosen={chosen}
          onDone={() => setLeft(new Set())}
        />
      )}
    </aside>
  );
}
