import { useState } from "react";
import { Link } from "react-router";
import { useProject } from "../project/useProject.ts";
import { Failure } from "../shared/dialogs/Failure.tsx";
import type { PlanSession } from "./engine/session/planSession.ts";
import { usePlanSession } from "./engine/session/usePlanSession.ts";
import { idsAfter } from "./grid/work/blocks.ts";
import { PlanWork } from "./PlanWork.tsx";

/** A plan with nothing in it, and how to begin. */
function Nothing({
  session,
  mayEdit,
  onBegin,
}: {
  session: PlanSession;
  mayEdit: boolean;
  onBegin: (id: string) => void;
}) {
  const begin = (): void => {
    const id = idsAfter([])(0);
    onBegin(id);
    void session.arrange({ verb: "insert", id, name: "First activity", after: null, inside: false });
  };
  return (
    <div className="page">
      <p className="muted">This plan has no activities yet.</p>
      {mayEdit && (
        <p className="mt-2">
          <button type="button" className="btn btn-primary btn-sm" onClick={begin}>
            Type the first activity
          </button>{" "}
          <span className="muted">
            then Enter for the next; or paste rows from a spreadsheet, or{" "}
            <Link className="underline" to="/import">
              bring a file
            </Link>
            .
          </span>
        </p>
      )}
    </div>
  );
}

/** The plan: its tree as a table beside the time chart. */
export function PlanPage() {
  const look = useProject();
  const { id } = look;
  const opened = usePlanSession(id);
  const [fresh, setFresh] = useState<string | null>(null);
  if (opened?.state.sheet == null)
    return opened?.state.failure == null ? (
      <p className="page muted" role="status">
        Loading the plan …
      </p>
    ) : (
      <div className="page">
        <Failure error={opened.state.failure} onAgain={() => void opened.session.open()} />
      </div>
    );
  const { sheet } = opened.state;
  if (sheet.rows.length === 0) return <Nothing session={opened.session} mayEdit={look.mayEdit} onBegin={setFresh} />;
  return (
    <PlanWork
      sheet={sheet}
      state={opened.state}
      session={opened.session}
      mayEdit={look.mayEdit}
      live
      planKey={id}
      fresh={fresh}
    />
  );
}
