import { DocumentsButton } from "../documents/DocumentsButton.tsx";
import { TalkButton } from "../talk/TalkButton.tsx";

/** What belongs to a project's report of a period besides what stands in it: documents, and what was said about it. */
export const ReportDocuments = ({ project, number }: { project: string; number: number }) => (
  <>
    <TalkButton place={{ about: "report", project, aboutId: String(number) }} of={`the report of period ${number}`} />
    <DocumentsButton
      project={project}
      place={{ about: "report", aboutId: String(number) }}
      of={`the report of period ${number}`}
      ask="what its readers may want to see besides: minutes, pictures, letters"
    />
  </>
);
