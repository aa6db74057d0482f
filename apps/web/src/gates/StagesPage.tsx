import type { ProjectGates } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useProject } from "../project/useProject.ts";
import { Loaded } from "../shared/dialogs/Failure.tsx";
import { useAddress } from "../shared/page/useAddress.ts";
import { GateActions, GateEvents } from "./GateEvents.tsx";
import { GatePart } from "./GatePart.tsx";
import { gatesQuery, useGates, type GateKeeper } from "./queries.ts";
import { StageTrack } from "./StageTrack.tsx";

interface Props {
  readonly view: ProjectGates;
  readonly keeper: GateKeeper;
}

/** By which life cycle the project lives. */
function LifeCycleChoice({ view, keeper }: Props) {
  const { closed } = useProject();
  const { lifeCycle, lifeCycles, asked } = view;
  if (lifeCycles.length === 0)
    return (
      <p className="muted">
        There are no life cycles yet. A controller writes them under <Link to="/set-up/life-cycles">Set up</Link>: the
        stages of each kind of project, and what must be true at its gates.
      </p>
    );
  if (!view.mayEdit)
    return (
      <p className="text-sm">
        {lifeCycle === null ? (
          "This project has no life cycle, and so no stages."
        ) : (
          <>
            <span className="muted">Life cycle</span> {lifeCycle.kind}
          </>
        )}
        {closed && <span className="muted"> It is closed: what was decided stays, and nothing is asked any more.</span>}
      </p>
    );
  return (
    <label className="flex items-center gap-2 text-sm">
      <span className="muted">Life cycle</span>
      <select
        className="select select-sm w-64"
        value={lifeCycle?.id ?? ""}
        disabled={asked !== null}
        title={asked === null ? undefined : "A gate waits for a decision"}
        onChange={(event) => {
          const value = event.target.value === "" ? null : event.target.value;
          const written = { field: "lifeCycle", was: lifeCycle?.id ?? null, value } as const;
          void keeper.writeOrTell(written, "The life cycle is changed; what was decided stays.");
        }}
      >
        <option value="">none</option>
        {lifeCycles.map(({ id, kind }) => (
          <option key={id} value={id}>
            {kind}
          </option>
        ))}
      </select>
      {lifeCycle === null && <span className="muted">Select the kind of project, and its stages stand here.</span>}
    </label>
  );
}

function Stages({ view }: { view: ProjectGates }) {
  const { id } = useProject();
  const keeper = useGates(id);
  const [params, put] = useAddress();
  const { gates } = view;
  const here = gates.find(({ standing }) => standing === "here") ?? gates.at(-1);
  const chosen = gates.find(({ stage }) => stage === params.get("stage")) ?? here;
  return (
    <div className="page">
      <h1 className="sr-only">Stages and gates</h1>
      <LifeCycleChoice view={view} keeper={keeper} />
      {chosen !== undefined && (
        <>
          <div className="pt-4">
            <StageTrack view={view} chosen={chosen.stage} onChoose={(stage) => put({ stage })} />
          </div>
          {gates.every(({ standing }) => standing === "passed") && (
            <p className="pt-4">All gates of this project are passed.</p>
          )}
          <GatePart key={chosen.stage} view={view} gate={chosen} keeper={keeper} />
        </>
      )}
      <GateActions view={view} keeper={keeper} />
      <GateEvents view={view} />
    </div>
  );
}

/** The stages a project goes through, what must be true at the gate of each, and what was decided. */
export function StagesPage() {
  const { id } = useProject();
  const query = useQuery(gatesQuery(id));
  return <Loaded query={query}>{(view) => <Stages view={view} />}</Loaded>;
}
