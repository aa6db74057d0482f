import { useInfiniteQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { useParams } from "react-router";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import type { Sheet } from "../engine/sheet.ts";
import { ActivityLists } from "../history/ActivityLists.tsx";
import { activityHistoryQuery } from "../queries.ts";
import { OlderButton } from "../../shared/page/OlderButton.tsx";

interface Props {
  readonly activity: string;
  /** The field that the chosen cell shows, by its name in the plan; `null` of one that is computed. */
  readonly field: string | null;
  /** The plan as it stands: once it is another, what was stored since is asked for. */
  readonly sheet: Sheet;
}

/** About as long as it takes until a change has been stored. */
const STORED_MILLISECONDS = 1000;

/** What became of the chosen activity: what was and what is, who, when and through what; of the chosen cell first. */
export function HistoryTab({ activity, field, sheet }: Props) {
  const project = useParams()["project"]!;
  const query = useInfiniteQuery(activityHistoryQuery(project, activity));
  const { refetch } = query;
  useEffect(() => {
    const timer = setTimeout(() => void refetch(), STORED_MILLISECONDS);
    return () => clearTimeout(timer);
  }, [sheet, refetch]);
  return (
    <Loaded query={query}>
      {({ pages }) => (
        <>
          <ActivityLists
            key={`${activity} ${field}`}
            lists={pages.flatMap(({ lists }) => lists)}
            project={project}
            first={field}
          />
          <OlderButton query={query} />
        </>
      )}
    </Loaded>
  );
}
