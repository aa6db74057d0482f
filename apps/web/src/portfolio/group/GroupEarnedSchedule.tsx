import type { Portfolio, ProjectLine } from "@chronometra/contract";
import { useQuery } from "@tanstack/react-query";
import { useMemo, type ReactNode } from "react";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { Toned } from "../../shared/dialogs/Toned.tsx";
import { periods, scheduleExplained, type ScheduleFigureId } from "../../shared/words/figureWords.ts";
import { dateWords, driftTone, indexTone, ratioWords } from "../../shared/words/words.ts";
import { earnedOf, type GroupEarned } from "./groupFigures.ts";
import { groupPlannedQuery } from "./queries.ts";

function Reading({ earned, dataDate, behind }: GroupEarned) {
  const { es, at, pd, svt, spit, forecastFinish } = earned;
  if (es === null || at === null)
    return <p className="muted text-sm">Nothing was planned to be earned yet, so it says nothing in time.</p>;
  const figures: readonly (readonly [name: string, id: ScheduleFigureId, shown: ReactNode])[] = [
    ["ES", "es", periods(es)],
    ["AT", "at", periods(at)],
    ["PD", "pd", periods(pd)],
    [
      "SV(t)",
      "svt",
      <Toned tone={driftTone(-svt!)}>
        {periods(Math.abs(svt!))} {svt! < 0 ? "behind" : "ahead"}
      </Toned>,
    ],
    [
      "SPI(t)",
      "spit",
      <Toned tone={indexTone(spit)} marked>
        {ratioWords(spit)}
      </Toned>,
    ],
    ["Points to", "forecastFinish", dateWords(forecastFinish)],
  ];
  return (
    <>
      <dl className="flex flex-wrap gap-x-8 gap-y-1">
        {figures.map(([name, id, shown]) => (
          <div key={id} className="flex items-baseline gap-2" title={scheduleExplained(id, earned)}>
            <dt className="muted text-sm">{name}</dt>
            <dd className="figure text-[17px]">{shown}</dd>
          </div>
        ))}
      </dl>
      <p className="muted text-sm">
        In calendar months, up to {dateWords(dataDate)}.
        {behind.length > 0 &&
          ` What ${behind.map(({ code }) => code).join(", ")} earned since an earlier data date is not in it.`}
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
