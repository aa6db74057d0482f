import type { Matter, Tie, TiePlace } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import { NameChoice } from "../shared/fields/NameChoice.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { telling } from "../shared/messages/telling.ts";
import { tiesQuery, type WriteOne } from "./queries.ts";

const PLACE_WORDS: Readonly<Record<TiePlace, string>> = {
  activity: "",
  deliverable: "deliverable",
  gate: "gate",
  change: "request",
  report: "",
};

/** Where a tie leads within its project. */
export const addressOfTie = (project: string, { about, id }: Tie): string =>
  `/projects/${project}/${
    {
      activity: `plan?at=${encodeURIComponent(id)}`,
      deliverable: "charter",
      gate: `stages?stage=${id}`,
      change: `whatif/${id}`,
      report: `report/${id}`,
    }[about]
  }`;

const NOTHING: (Tie & { name: string })[] = [];

/** What a matter is tied to: each leads there; more are added by name. */
export function TiesPart({ matter, write }: { matter: Matter; write: WriteOne }) {
  const { project, ties, mayWrite } = matter;
  const edits = mayWrite === "all" && project !== null;
  const places = useQuery({ ...tiesQuery(project?.id ?? ""), enabled: edits }).data ?? NOTHING;
  const [round, setRound] = useState(0);
  const things = useMemo(
    () =>
      places.map(({ about, id, name }) => ({
        id: `${about} ${id}`,
        name: PLACE_WORDS[about] === "" ? name : `${PLACE_WORDS[about]}: ${name}`,
      })),
    [places],
  );
  if (project === null) return null;
  const bare = ties.map(({ about, id }) => ({ about, id }));
  const put = telling((value: Tie[], words: string) => write({ field: "ties", was: bare, value }, words));
  const add = (key: string | null): void => {
    const tie = places.find(({ about, id }) => `${about} ${id}` === key);
    if (tie === undefined || bare.some(({ about, id }) => about === tie.about && id === tie.id)) return;
    setRound(round + 1);
    put([...bare, { about: tie.about, id: tie.id }], `It is tied to ${tie.name}.`);
  };
  return (
    <section className="py-1.5 text-sm" aria-label="Tied to">
      <h3 className="muted font-sans">Tied to</h3>
      <ul className="flex flex-wrap items-center gap-x-4 gap-y-1">
        {ties.map(({ about, id, name }) => (
          <li key={`${about} ${id}`} className="flex items-center gap-1">
            <Link className="link-quiet" to={addressOfTie(project.id, { about, id })}>
              {name}
            </Link>
            {PLACE_WORDS[about] !== "" && <span className="muted">{PLACE_WORDS[about]}</span>}
            {edits && (
              <RemoveButton
                what={`the tie to ${name}`}
                onRemove={() =>
                  put(
                    bare.filter((each) => each.about !== about || each.id !== id),
                    `It is not tied to ${name} any more.`,
                  )
                }
              />
            )}
          </li>
        ))}
        {ties.length === 0 && !edits && <li className="muted">–</li>}
        {edits && (
          <li>
            <NameChoice
              key={round}
              label="Activity, deliverable, gate, request, report"
              things={things}
              width="w-80"
              onChoose={add}
            />
          </li>
        )}
      </ul>
    </section>
  );
}
