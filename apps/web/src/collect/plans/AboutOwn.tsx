import type { OwnPlan, OwnPlanActivity } from "@chronometra/contract";
import { useInfiniteQuery } from "@tanstack/react-query";
import { X } from "lucide-react";
import { useState } from "react";
import { ActivityLists } from "../../plan/history/ActivityLists.tsx";
import { ActivityFacts } from "../../plan/read/ActivityFacts.tsx";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { OlderButton } from "../../shared/page/OlderButton.tsx";
import { Thread } from "../../talk/Thread.tsx";
import { ownHistoryQuery } from "./queries.ts";
import { FollowButtons } from "../../talk/FollowButtons.tsx";
import { RaiseIssue } from "../../matters/RaiseIssue.tsx";

interface Props {
  readonly plan: OwnPlan;
  readonly activity: OwnPlanActivity;
  readonly onClose: () => void;
}

function OwnHistory({ project, activity }: { project: string; activity: string }) {
  const query = useInfiniteQuery(ownHistoryQuery(project, activity));
  return (
    <Loaded query={query}>
      {({ pages }) => (
        <>
          <ActivityLists lists={pages.flatMap(({ lists }) => lists)} project={null} first={null} />
          <OlderButton query={query} />
        </>
      )}
    </Loaded>
  );
}

/** All about an activity that whoever works in its project may read: dates, who does it, what is said; of one's own what became of it. */
export function AboutOwn({ plan: { id: project, words }, activity, onClose }: Props) {
  const [part, setPart] = useState<"talk" | "history">("talk");
  const { id, name, own } = activity;
  return (
    <aside
      aria-label={`About ${name}`}
      className="min-h-0 w-96 shrink-0 overflow-auto border-l rule px-3 text-[13px] max-lg:w-full max-lg:border-l-0"
    >
      <div className="flex items-start gap-2 py-2">
        <h2 className="min-w-0 grow text-base break-words">{name}</h2>
        <button type="button" className="btn btn-ghost btn-xs btn-square" aria-label="Close" onClick={onClose}>
          <X size={14} aria-hidden="true" />
        </button>
      </div>
      <ActivityFacts activity={activity} words={words} />
      <p className="flex flex-wrap items-center gap-1 pb-2">
        <RaiseIssue project={project} activity={id} of={name} />
        <FollowButtons place={{ about: "activity", project, aboutId: id }} of={name} />
      </p>
      {own && (
        <p className="flex gap-4 border-b rule [&_button]:min-h-[24px]">
          {(["talk", "history"] as const).map((each) => (
            <button
              key={each}
              type="button"
              aria-pressed={part === each}
              className={`cursor-pointer border-b-2 ${part === each ? "border-accent font-semibold" : "border-transparent muted"}`}
              onClick={() => setPart(each)}
            >
              {each === "talk" ? "Talk" : "What became of it"}
            </button>
          ))}
        </p>
      )}
      <div className="py-2">
        {own && part === "history" ? (
          <OwnHistory project={project} activity={id} />
        ) : (
          <Thread key={id} place={{ about: "activity", project, aboutId: id }} />
        )}
      </div>
    </aside>
  );
}
