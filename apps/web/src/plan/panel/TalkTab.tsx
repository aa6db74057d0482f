import { useParams } from "react-router";
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

/** What was said about the chosen activity. */
export const TalkTab = ({ activity }: { activity: string }) => <Thread place={useTalkedAbout(activity)} />;
