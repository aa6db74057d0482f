import { useParams } from "react-router";
import { DocumentList } from "../../documents/DocumentList.tsx";
import type { SheetRow } from "../engine/sheet.ts";

/** What belongs to an activity besides its dates, work and cost. */
export function NotesTab({ row }: { row: SheetRow }) {
  const { project = "" } = useParams();
  return (
    <section aria-label="Documents">
      <h3 className="pb-1 text-sm font-semibold">Documents</h3>
      <DocumentList
        project={project}
        place={{ about: "activity", aboutId: row.id }}
        ask="drawings, method statements, permits; those who work on it find them on their desk"
      />
    </section>
  );
}
