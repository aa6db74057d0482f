import type { DeskActivity } from "@chronometra/contract";
import { numberWords } from "../../shared/words/words.ts";
import { useReport } from "../useDesk.ts";
import { PercentScale } from "./PercentScale.tsx";

/** What was last said of an activity, accepted or not. */
export interface Said {
  readonly percent: number | null;
  readonly stage: string | null;
}

interface Props {
  readonly activity: DeskActivity;
  /** The day that is spoken of, `YYYY-MM-DD`. */
  readonly day: string;
  readonly said: Said;
}

const NOW = "font-semibold";
const STAGE = "min-h-[28px] cursor-pointer border-b-[3px] pr-3 text-left text-sm disabled:cursor-wait";

/** Stages in their order, each reached by one touch; what earns everything also says that the activity is finished. */
function StageScale({ activity, day, said, stages }: Props & { stages: NonNullable<DeskActivity["stages"]> }) {
  const report = useReport(activity, "Stage sent");
  const at = stages.all.findIndex(({ name }) => name === said.stage);
  return (
    <>
      <div role="group" aria-label={`Stage of ${activity.name}`} className="flex max-w-md flex-wrap">
        {stages.all.map(({ name, credit }, i) => (
          <button
            key={name}
            type="button"
            disabled={report.isPending}
            aria-pressed={i === at}
            title={`${name}: earns ${numberWords(credit, 2)}%${credit === 100 ? " and finishes it" : ""}`}
            className={`${STAGE} ${i <= at ? "border-accent" : "border-base-300"} ${i === at ? NOW : "muted"}`}
            onClick={() =>
              i !== at && report.mutate({ date: day, stage: name, ...(credit === 100 ? { percent: 100 } : {}) })
            }
          >
            {name}
          </button>
        ))}
      </div>
      <Refused error={report.error} />
    </>
  );
}

const Refused = ({ error }: { error: Error | null }) =>
  error === null ? null : (
    <span role="alert" className="adverse max-w-72 text-sm">
      {error.message}
    </span>
  );

/** How far an activity has come: by its stages where it earns by them, else in percent. */
export function ProgressPart({ activity, day, said }: Props) {
  const report = useReport(activity, "Percent sent");
  if (activity.stages !== null) return <StageScale {...{ activity, day, said }} stages={activity.stages} />;
  return (
    <>
      <PercentScale
        name={activity.name}
        percent={said.percent}
        pending={report.isPending}
        onPercent={(percent) => report.mutate({ date: day, percent })}
      />
      <Refused error={report.error} />
    </>
  );
}
