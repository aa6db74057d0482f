import {
  MATTER_KIND_WORDS,
  matterStateWords,
  type Matter,
  type MatterSettings,
  type NewMatter,
} from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { dateWords } from "../shared/words/words.ts";
import { placeOf, severityName } from "./matterColumns.tsx";
import { MatterDialog } from "./MatterDialog.tsx";
import { NewMatterForm } from "./NewMatterForm.tsx";
import { mattersQuery, useMatters } from "./queries.ts";

interface ItemsProps {
  readonly matters: readonly Matter[];
  readonly settings: MatterSettings;
  /** Whether it is said which project or group each is of. */
  readonly places: boolean;
}

/** Matters in a short list, each opened where it stands. */
function MatterItems({ matters, settings, places }: ItemsProps) {
  const keeper = useMatters();
  const [open, setOpen] = useState<string | null>(null);
  return (
    <>
      <ul className="text-sm">
        {matters.map((matter) => {
          const { id, kind, title, state, severity, due, overdue } = matter;
          return (
            <li key={id} className="flex flex-wrap items-baseline gap-x-2 border-b rule py-1">
              <span className="muted">{MATTER_KIND_WORDS[kind][0]}</span>
              <button type="button" className="link-quiet cursor-pointer text-left" onClick={() => setOpen(id)}>
                {title}
              </button>
              <span className="muted">
                {[
                  places ? placeOf(matter) : "",
                  severity === null ? "" : severityName(settings, severity),
                  matterStateWords(kind, state),
                ]
                  .filter((words) => words !== "")
                  .join(", ")}
              </span>
              {due !== null && (
                <span className={overdue ? "adverse" : ""}>
                  {overdue ? "overdue since" : "due"} {dateWords(due)}
                </span>
              )}
            </li>
          );
        })}
      </ul>
      {open !== null && <MatterDialog id={open} keeper={keeper} onClose={() => setOpen(null)} />}
    </>
  );
}

/** What of the registers someone owns and is open; nothing where that is nothing. */
export function OwnMatters() {
  const { data } = useQuery(mattersQuery(null, { mine: "1" }));
  if (data === undefined || data.matters.length === 0) return null;
  return (
    <section aria-label="Yours in the registers">
      <h2
        className={`mt-3 border-b-2 border-current pb-0.5 text-base ${data.matters.some(({ overdue }) => overdue) ? "adverse" : ""}`}
      >
        Yours in the registers
      </h2>
      <MatterItems matters={data.matters} settings={data.settings} places />
    </section>
  );
}

/** What of the registers is tied to an activity, and something new for them. */
export function ActivityMatters({ project, activity }: { project: string; activity: string }) {
  const keeper = useMatters();
  const { data } = useQuery(mattersQuery(project, { tie: `activity:${activity}` }));
  const [adding, setAdding] = useState(false);
  if (data === undefined) return null;
  const ties: NewMatter["ties"] = [{ about: "activity", id: activity }];
  return (
    <section aria-label="Registers" className="pt-3">
      <h3 className="pb-1 text-sm font-semibold">Registers</h3>
      {data.matters.length === 0 ? (
        <p className="muted text-sm">No open risk, issue, action or decision is tied to it.</p>
      ) : (
        <MatterItems matters={data.matters} settings={data.settings} places={false} />
      )}
      {data.mayAdd && (
        <button type="button" className="btn btn-xs mt-1" onClick={() => setAdding(true)}>
          Add …
        </button>
      )}
      {adding && (
        <NewMatterForm
          kind={null}
          project={project}
          places={[]}
          ties={ties}
          settings={data.settings}
          keeper={keeper}
          onAdded={() => setAdding(false)}
          onClose={() => setAdding(false)}
        />
      )}
    </section>
  );
}
