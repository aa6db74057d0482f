import { Link } from "react-router";
import { movedWords } from "../../shared/words/words.ts";
import type { ChartLooks } from "./useChartLook.ts";

/** What the chart's colours stand for. */
function Colours({ colouring }: { colouring: NonNullable<ChartLooks["look"]["colouring"]> }) {
  return (
    <ul
      aria-label={`Colours of ${colouring.field.name}`}
      className="flex flex-wrap gap-4 border-t rule px-4 py-0.5 text-sm"
    >
      <li className="muted">{colouring.field.name}</li>
      {colouring.legend.map(({ value, colour }) => (
        <li key={value} className="flex items-center gap-1.5">
          <span className="inline-block h-2.5 w-5" style={{ background: colour }} aria-hidden="true" />
          {value}
        </li>
      ))}
    </ul>
  );
}

/** What is to be known of how the chart is drawn at the moment: its colours, and a test that is shown in it. */
export function LookNotes({ project, looks: { look, test } }: { project: string; looks: ChartLooks }) {
  return (
    <>
      {look.colouring !== null && <Colours colouring={look.colouring} />}
      {test !== null && (
        <p role="status" className="border-t rule px-4 py-0.5 text-sm">
          Critical path test: with {test.activity} {test.addedDays} d longer, the finish lies{" "}
          {movedWords(test.movedDays)}; what moves is drawn where it would lie.{" "}
          <Link className="underline" to={`/projects/${project}/trust?at=12`}>
            What that says
          </Link>
        </p>
      )}
    </>
  );
}
