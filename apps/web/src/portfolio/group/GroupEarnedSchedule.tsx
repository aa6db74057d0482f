import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { periods, scheduleExplained } from "../../shared/words/figureWords.ts";
import { countWords, dateWords, driftTone, indexTone, ratioWords } from "../../shared/words/words.ts";
import { earnedOf, type GroupEarned } from "./groupFigures.ts";
import { groupPlannedQuery } from "./queries.ts";

function Reading({ earned, dataDate, behind }: GroupEarned) {
  const { es, at, pd, svt, spit, forecastFinish } = earned;
  if (es === null || at === null)
    return <p className="muted text-sm">Nothing was planned to be earned yet, so it says nothing in time.</p>;
  const figures = [
    ["ES", periods(es), "es"],
    ["AT", periods(at), "at"],
    ["PD", periods(pd), "pd"],
  ] as const;
  return (
    <>
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        {figures.map(([name, value, id]) => (
          <div key={name} className="flex items-baseline gap-2" title={scheduleExplained(id, earned)}>
            <dt className="muted text-sm">{name}</dt>
            <dd className="figure text-[17px]">{value}</dd>
          </div>
        ))}
        <div className="flex items-baseline gap-2" title={scheduleExplained("svt", earned)}>
          <dt className="muted text-sm">SV(t)</dt>
          <dd className="figure text-[17px]">
            <Toned tone={driftTone(-svt!)}>
              {periods(Math.abs(svt!))} {svt! < 0 ? "behind" : "ahead"}
            </Toned>
          </dd>
        </div>
        <div className="flex items-baseline gap-2" title={scheduleExplained("spit", earned)}>
          <dt className="muted text-sm">SPI(t)</dt>
          <dd className="figure text-[17px]">
            <Toned tone={indexTone(spit)} marked>
              {ratioWords(spit)}
            </Toned>
          </dd>
        </div>
        {forecastFinish !== null && (
          <div className="flex items-baseline gap-2" title={scheduleExplained("forecastFinish", earned)}>
            <dt className="muted text-sm">Points to</dt>
            <dd className="figure text-[17px]">{dateWords(forecastFinish)}</dd>
          </div>
        )}
      </dl>
      <p className="muted text-sm">
        In calendar months, up to {dateWords(dataDate)}.
        {behind.length > 0 &&
          ` ${countWords(behind.length, "project stands", "projects stand")} at an earlier data date, and what was earned since counts as nothing: ${behind.map(({ code }) => code).join(", ")}.`}
      </p>
    </>
  );
}

/** What a group has earned, told in time. */
export function GroupEarnedSchedule(props: { id: string; lines: readonly ProjectLine[]; portfolio: Portfolio }) {
  const { id, lines, portfolio } = props;
  const planned = useQuery(groupPlannedQuery(id));
  const earned = useMemo(
    () => (planned.data === undefined ? null : earnedOf(planned.data, lines, portfolio)),
    [planned.data, lines, portfolio],
  );
  return (
    <Loaded query={planned}>
      {() =>
        earned === null ? (
          <p className="muted text-sm">Nothing is measured here, or a rate of exchange is missing.</p>
        ) : (
          <Reading {...earned} />
        )
      }
    </Loaded>
  );
}
