import { GATE_ACT_WORDS, type GateAction, type ProjectGates } from "@chronometra/contract";
import { Link, useParams } from "react-router";
import { dateWords, momentWords } from "../shared/words/words.ts";
import { todayHere } from "../shared/words/today.ts";
import { Conditions } from "./Conditions.tsx";
import type { GateKeeper } from "./queries.ts";

interface Props {
  readonly view: ProjectGates;
  readonly keeper: GateKeeper;
}

const actionsIn = ({ events }: ProjectGates): (GateAction & { gate: string })[] =>
  events.flatMap(({ actions, gate }) => actions.map((action) => ({ ...action, gate })));

/** What gates that were passed with conditions asked for. */
export function GateActions({ view, keeper }: Props) {
  const actions = actionsIn(view);
  const { project } = useParams();
  if (actions.length === 0) return null;
  return (
    <section className="pt-6">
      <h2 className="pb-1 text-base">To be done after gates</h2>
      <table className="ledger max-w-5xl" aria-label="To be done after gates">
        <thead>
          <tr>
            <th>What</th>
            <th>By whom</th>
            <th>By when</th>
            <th>After</th>
            <th>Done</th>
          </tr>
        </thead>
        <tbody>
          {actions.map(({ id, what, owner, due, gate, doneOn, doneBy }) => (
            <tr key={id}>
              <td>
                <Link className="link-quiet" to={`/projects/${project}/registers?matter=${id}`}>
                  {what}
                </Link>
              </td>
              <td>{owner === "" ? "–" : owner}</td>
              <td className="whitespace-nowrap">
                {due === null ? "–" : dateWords(due)}
                {due !== null && doneOn === null && due < todayHere() && <span className="adverse"> overdue</span>}
              </td>
              <td>{gate}</td>
              <td className="whitespace-nowrap">
                {doneOn === null ? "not yet" : `${doneBy ?? "done"}, ${dateWords(doneOn)}`}{" "}
                {view.mayEdit && (
                  <button
                    type="button"
                    className="btn btn-xs"
                    aria-label={`${doneOn === null ? "Done" : "Not done"}: ${what}`}
                    onClick={() => void keeper.told(keeper.done(id, doneOn === null))}
                  >
                    {doneOn === null ? "Done" : "Not done"}
                  </button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** What happened at the gates of a project, the newest first. */
export function GateEvents({ view: { events } }: Pick<Props, "view">) {
  if (events.length === 0) return null;
  return (
    <section className="pt-6">
      <h2 className="pb-1 text-base">What happened</h2>
      <ul className="max-w-5xl text-sm">
        {events.map(({ id, gate, stageName, act, by, at, word, conditions }) => (
          <li key={id} className="border-b rule py-1">
            <p>
              <span className="muted">{momentWords(at)}</span> {gate} <span className="muted">({stageName})</span>{" "}
              {GATE_ACT_WORDS[act]} by {by}
              {word === "" ? "" : `: “${word}”`}
            </p>
            {conditions.length > 0 && (
              <details>
                <summary className="muted cursor-pointer">What stood then</summary>
                <Conditions conditions={conditions} name={`What must be true, ${gate}, ${momentWords(at)}`} />
              </details>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
