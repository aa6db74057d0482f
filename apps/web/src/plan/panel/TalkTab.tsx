import { useParams } from "react-router";
import { FollowButtons } from "../../talk/FollowButtons.tsx";
import { useTalkCount } from "../../talk/TalkButton.tsx";
import { Thread } from "../../talk/Thread.tsx";

const useTalkedAbout = (activity: string) => ({
  about: "activity" as const,
  project: useParams()["project"]!,
  aboutId: activity,
});

/** How much was said about an activity, beside the name of the tab. */
export function TalkCount({ activity }: { activity: string }) {
  const { count, unread } = useTalkCount(useTalkedAbout(activity));
  if (count === 0) return null;
  return <span className={`figure pl-1 text-xs ${unread > 0 ? "undecided font-semibold" : "muted"}`}>{count}</span>;
}

/** What was said about the chosen activity; whether one follows it. */
export function TalkTab({ activity, name }: { activity: string; name: string }) {
  const place = useTalkedAbout(activity);
  return (
    <>
      <p className="pb-1">
        <FollowButtons place={place} of={name} />
      </p>
      <Thread place={place} />
    </>
  );
}
