import type { CharterView, ProjectDocument } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { DocumentList } from "../documents/DocumentList.tsx";
import { PROJECT } from "../documents/queries.ts";
import { gatesQuery } from "../gates/queries.ts";

/** All documents of a project: its own, and those of what is in it. */
export function DocumentsPart({ view }: { view: CharterView }) {
  const gates = useQuery(gatesQuery(view.id)).data?.gates ?? [];
  const onOf = ({ about, aboutId }: ProjectDocument): string => {
    switch (about) {
      case "activity":
        return `on “${view.activities.find(({ id }) => id === aboutId)?.name ?? "an activity that is no more"}”`;
      case "deliverable":
        return `on “${view.charter.deliverables[aboutId]?.name ?? "a deliverable that is no more"}”`;
      case "gate":
        return `at “${gates.find(({ stage }) => stage === aboutId)?.gate ?? "a gate that is no more"}”`;
      case "report":
        return `on the report of period ${aboutId}`;
      default:
        return "";
    }
  };
  return (
    <section className="max-w-5xl pt-4" aria-label="Documents">
      <h2 className="pb-1 text-base">Documents</h2>
      <DocumentList
        project={view.id}
        place={PROJECT}
        ask="contracts, permits, minutes, drawings, as files or as links"
        onOf={onOf}
      />
    </section>
  );
}
