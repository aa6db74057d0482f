import { DocumentsButton } from "../documents/DocumentsButton.tsx";

/** What belongs to a project's report of a period besides what stands in it. */
export const ReportDocuments = ({ project, number }: { project: string; number: number }) => (
  <DocumentsButton
    project={project}
    place={{ about: "report", aboutId: String(number) }}
    of={`the report of period ${number}`}
    ask="what its readers may want to see besides: minutes, pictures, letters"
  />
);
