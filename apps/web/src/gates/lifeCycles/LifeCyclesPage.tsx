import type { LifeCycle, LifeCycles, Stage } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { CommitField } from "../../shared/fields/CommitField.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { toast } from "../../shared/messages/toast.ts";
import { lifeCyclesQuery } from "../queries.ts";
import { StageLine } from "./StageLine.tsx";
import { newCycle, newStage, useLifeCycles, type WriteCycle } from "./useLifeCycles.ts";

type Entry = LifeCycles["cycles"][number];

/** The projects that live by a life cycle, and the stage of each. */
const Living = ({ projects }: Pick<Entry, "projects">) =>
  projects.length === 0 ? (
    <p className="muted text-sm">
      No project uses it yet. One is given it on its page “Stages and gates”, in its place Approve.
    </p>
  ) : (
    <p className="text-sm">
      <span className="muted">Used by</span>{" "}
      {projects.map(({ id, code, name, stage }, i) => (
        <span key={id}>
          {i > 0 && ", "}
          <Link to={`/projects/${id}/stages`} title={name}>
            {code}
          </Link>{" "}
          <span className="muted">({stage ?? "all gates passed"})</span>
        </span>
      ))}
    </p>
  );

const swapped = (stages: readonly Stage[], at: number, by: 1 | -1): Stage[] => {
  const next = [...stages];
  [next[at], next[at + by]] = [next[at + by]!, next[at]!];
  return next;
};

/** A name for a stage that none of the others has. */
function freeName(stages: readonly Stage[]): string {
  const names = new Set(stages.map(({ name }) => name));
  for (let number = stages.length + 1; ; number++) if (!names.has(`Stage ${number}`)) return `Stage ${number}`;
}

function Cycle({
  entry,
  severities,
  mayEdit,
  write,
}: {
  entry: Entry;
  severities: LifeCycles["severities"];
  mayEdit: boolean;
  write: WriteCycle;
}) {
  const { id, cycle, projects } = entry;
  const to = (next: Partial<LifeCycle>, words: string) =>
    write(id, { was: cycle, value: { ...cycle, ...next } }, words);
  const told = async (act: Promise<string | null>): Promise<string | null> => {
    const fault = await act;
    if (fault !== null) toast.error(fault);
    return fault;
  };
  const { stages } = cycle;
  return (
    <section className="max-w-3xl pb-8" aria-label={cycle.kind}>
      <div className="flex items-center gap-2">
        <h2 className="flex-1 text-lg">
          {mayEdit ? (
            <CommitField
              label={`Kind of project ${cycle.kind}`}
              width="w-80"
              value={cycle.kind}
              onCommit={(text) =>
                text.trim() === "" ? "Say of which kind of project." : to({ kind: text.trim() }, "The name is changed.")
              }
            />
          ) : (
            cycle.kind
          )}
        </h2>
        {mayEdit && (
          <button
            type="button"
            className="btn btn-sm"
            disabled={projects.length > 0}
            title={projects.length > 0 ? "Projects use it" : undefined}
            onClick={() => void told(write(id, { was: cycle, value: null }, `“${cycle.kind}” is removed.`))}
          >
            Remove
          </button>
        )}
      </div>
      <Living projects={projects} />
      <ol aria-label={`Stages of ${cycle.kind}`}>
        {stages.map((stage, at) => (
          <StageLine
            key={stage.id}
            stage={stage}
            severities={severities}
            mayEdit={mayEdit}
            isFirst={at === 0}
            isLast={at === stages.length - 1}
            onMove={(by) => void told(to({ stages: swapped(stages, at, by) }, "The order is changed."))}
            onWrite={(next, words) =>
              told(to({ stages: stages.flatMap((each, i) => (i !== at ? [each] : (next ?? []))) }, words))
            }
          />
        ))}
      </ol>
      {mayEdit && (
        <button
          type="button"
          className="btn btn-sm mt-2"
          onClick={() => {
            const name = freeName(stages);
            void told(to({ stages: [...stages, newStage(name, `Gate of ${name}`)] }, `${name} is added.`));
          }}
        >
          <Plus size={14} aria-hidden="true" /> A stage
        </button>
      )}
    </section>
  );
}

/** A kind of project that has no life cycle yet. */
function NewCycle({ write }: { write: WriteCycle }) {
  const [kind, setKind] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  return (
    <form
      className="flex max-w-3xl flex-wrap items-center gap-2 pb-6"
      onSubmit={(event) => {
        event.preventDefault();
        const words = `“${kind.trim()}” begins with four stages; change them as you need.`;
        void write(crypto.randomUUID(), { was: null, value: newCycle(kind.trim()) }, words).then((answer) => {
          setFault(answer);
          if (answer === null) setKind("");
        });
      }}
    >
      <input
        className="input input-sm w-80"
        aria-label="Kind of project"
        placeholder="a kind of project, as: new installation"
        required
        maxLength={100}
        value={kind}
        onChange={(event) => setKind(event.target.value)}
      />
      <button className="btn btn-sm" disabled={kind.trim() === ""}>
        Add a life cycle
      </button>
      {fault !== null && (
        <p role="alert" className="adverse text-sm">
          {fault}
        </p>
      )}
    </form>
  );
}

/** How projects of each kind live: their stages, and what must be true at the gate of each. */
export function LifeCyclesPage() {
  const query = useQuery(lifeCyclesQuery);
  const write = useLifeCycles();
  return (
    <div className="page">
      <h1 className="text-xl">Life cycles</h1>
      <p className="muted max-w-3xl pb-3 text-sm">
        A project of some kind goes through the same stages, each ended by a gate: what must be true there is looked up
        where it can be, and someone who did not ask decides. Renaming and moving stages keeps what was decided.
      </p>
      <Loaded query={query}>
        {({ cycles, severities, mayEdit }) => (
          <>
            {mayEdit && <NewCycle write={write} />}
            {cycles.length === 0 && <p>There is none yet.</p>}
            {cycles.map((entry) => (
              <Cycle key={entry.id} entry={entry} severities={severities} mayEdit={mayEdit} write={write} />
            ))}
          </>
        )}
      </Loaded>
    </div>
  );
}
