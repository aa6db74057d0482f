import {
  MATTER_KIND_WORDS,
  matterStateWords,
  RESPONSE_WORDS,
  type Matter,
  type MatterView,
} from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { CommitText } from "../shared/fields/CommitText.tsx";
import { telling } from "../shared/messages/telling.ts";
import { dateWords, momentWords } from "../shared/words/words.ts";
import { MatterFields } from "./MatterFields.tsx";
import { placeOf } from "./matterColumns.tsx";
import { matterQuery, type MatterKeeper, type WriteOne } from "./queries.ts";
import { StrikeForm } from "./risks/StrikeForm.tsx";
import { TiesPart } from "./TiesPart.tsx";
import { Thread } from "../talk/Thread.tsx";
import { FollowButtons } from "../talk/FollowButtons.tsx";

/** Where it lies, who raised it, and how it stands. */
function Head({ matter, write, onStrike }: { matter: Matter; write: WriteOne; onStrike: () => void }) {
  const { kind, state, project, raisedBy, raisedOn, closedOn, mayWrite } = matter;
  const settle = telling(() => {
    const value = state === "open" ? "settled" : "open";
    return write({ field: "state", was: state, value }, `It is ${matterStateWords(kind, value)}.`);
  });
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-2 text-sm">
      <span className="font-semibold">{matterStateWords(kind, state)}</span>
      {matter.overdue && <span className="adverse">overdue since {dateWords(matter.due)}</span>}
      <span className="muted">
        {project === null ? (
          placeOf(matter)
        ) : (
          <Link className="link-quiet" to={`/projects/${project.id}/registers?kind=${kind}`}>
            {project.code} {project.name}
          </Link>
        )}
        {raisedBy !== "" && `, raised by ${raisedBy}`}
        {raisedOn !== null && ` on ${dateWords(raisedOn)}`}
        {closedOn !== null && `, settled on ${dateWords(closedOn)}`}
      </span>
      <span className="ml-auto flex gap-2">
        {mayWrite !== null && state !== "struck" && (
          <button type="button" className="btn btn-sm" onClick={() => settle()}>
            {state === "open" ? `It is ${matterStateWords(kind, "settled")}` : "Open it again"}
          </button>
        )}
        {mayWrite === "all" && kind === "risk" && state === "open" && project !== null && (
          <button type="button" className="btn btn-sm" onClick={onStrike}>
            It struck …
          </button>
        )}
      </span>
    </div>
  );
}

/** What was, and what is: who wrote what when. */
function History({ events }: Pick<MatterView, "events">) {
  return (
    <details className="pt-3 text-sm">
      <summary className="muted cursor-pointer">History, {events.length}</summary>
      <table className="ledger" aria-label="History">
        <thead>
          <tr>
            <th>When</th>
            <th>Who</th>
            <th>What</th>
            <th>Was</th>
            <th>Is</th>
          </tr>
        </thead>
        <tbody>
          {events.map(({ at, by, field, was, value }, i) => (
            <tr key={i}>
              <td className="whitespace-nowrap">{momentWords(at)}</td>
              <td>{by}</td>
              <td>{field}</td>
              <td>{was === "" ? "–" : was}</td>
              <td>{value === "" ? "–" : value}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

/** A long text of a matter, typed where it stands by whoever may. */
function Text(props: {
  name: string;
  ask: string;
  value: string;
  mayWrite: boolean;
  onWrite: (text: string) => Promise<string | null>;
}) {
  const { name, ask, value, mayWrite, onWrite } = props;
  if (mayWrite) return <CommitText name={name} value={value} ask={ask} onCommit={onWrite} />;
  return (
    <section className="py-1.5">
      <h3 className="muted font-sans text-sm">{name}</h3>
      <p className="max-w-prose whitespace-pre-wrap">{value === "" ? "–" : value}</p>
    </section>
  );
}

interface PartProps {
  readonly view: MatterView;
  readonly keeper: MatterKeeper;
  readonly onClose: () => void;
}

function Whole({ view, keeper, onClose }: PartProps) {
  const { matter, settings, events } = view;
  const [striking, setStriking] = useState(false);
  const write: WriteOne = (one, words) => keeper.write(matter, [one], words);
  const remove = telling(async () => {
    const fault = await write({ field: "removed", was: false, value: true }, `“${matter.title}” is removed.`);
    if (fault === null) onClose();
    return fault;
  });
  const { text, response, kind, mayWrite } = matter;
  const isPlans = matter.kind === "risk" && matter.project !== null;
  if (striking) return <StrikeForm matter={matter} settings={settings} onClose={() => setStriking(false)} />;
  return (
    <>
      <Head matter={matter} write={write} onStrike={() => setStriking(true)} />
      <MatterFields matter={matter} settings={settings} write={write} />
      <Text
        name="Description"
        ask="What is it about, and how did it come up?"
        value={text}
        mayWrite={mayWrite === "all"}
        onWrite={(value) => write({ field: "text", was: text, value }, "The description is written.")}
      />
      <Text
        name={RESPONSE_WORDS[kind]}
        ask="In words that the next reader understands"
        value={response}
        mayWrite={mayWrite !== null}
        onWrite={(value) => write({ field: "response", was: response, value }, `${RESPONSE_WORDS[kind]} is written.`)}
      />
      <TiesPart matter={matter} write={write} />
      <section className="pt-3" aria-label="Talk">
        <h3 className="muted font-sans text-sm">
          Talk <FollowButtons place={{ about: "matter", project: "", aboutId: matter.id }} of={matter.title} />
        </h3>
        <Thread place={{ about: "matter", project: "", aboutId: matter.id }} />
      </section>
      <History events={events} />
      <div className="flex flex-wrap items-center gap-3 pt-3 text-sm">
        {isPlans && (
          <Link className="underline" to={`/projects/${matter.project!.id}/chances`}>
            Days and cost that it adds, in chances
          </Link>
        )}
        {mayWrite === "all" && !isPlans && (
          <button type="button" className="btn btn-sm ml-auto" onClick={() => remove()}>
            Remove the {MATTER_KIND_WORDS[kind][0]}
          </button>
        )}
      </div>
    </>
  );
}

/** All of a matter: how it stands, who sees to it, what is done about it, what it is tied to and what happened. */
export function MatterDialog({ id, keeper, onClose }: { id: string; keeper: MatterKeeper; onClose: () => void }) {
  const query = useQuery(matterQuery(id));
  return (
    <Dialog title={query.data?.matter.title ?? "Register"} onClose={onClose} wide>
      <Loaded query={query}>{(view) => <Whole view={view} keeper={keeper} onClose={onClose} />}</Loaded>
    </Dialog>
  );
}
