import type { DeskActivity, DeskNews } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { DeskLookEntity } from "./kept/deskEntities.ts";

/** What is remembered of an activity that someone has seen. */
type Seen = Pick<
  DeskActivity,
  "project" | "projectName" | "activity" | "name" | "start" | "finish" | "plannedMinutes"
> & { readonly waits: boolean };

const keyOf = ({ project, activity }: Pick<Seen, "project" | "activity">): string => `${project} ${activity}`;
const seenOf = ({
  project,
  projectName,
  activity,
  name,
  start,
  finish,
  plannedMinutes,
  waitsFor,
}: DeskActivity): Seen => ({
  project,
  projectName,
  activity,
  name,
  start,
  finish,
  plannedMinutes,
  waits: waitsFor.length > 0,
});

/** What differs between own work as it was seen and as it is, an activity at a time. */
export function newsBetween(before: readonly Seen[], now: readonly DeskActivity[]): DeskNews[] {
  const were = new Map(before.map((seen) => [keyOf(seen), seen]));
  const are = new Set(now.map(keyOf));
  const news: DeskNews[] = [];
  const tell = ({ project, projectName, activity, name }: Seen | DeskActivity, what: DeskNews["what"]): void =>
    void news.push({ project, projectName, activity, name, what });
  for (const activity of now) {
    const was = were.get(keyOf(activity));
    if (was === undefined) {
      tell(activity, { kind: "new" });
      continue;
    }
    if (was.waits && activity.waitsFor.length === 0) tell(activity, { kind: "free" });
    if (activity.state === "notStarted" && was.start !== activity.start)
      tell(activity, { kind: "start", from: was.start, to: activity.start });
    if (was.finish !== activity.finish) tell(activity, { kind: "finish", from: was.finish, to: activity.finish });
    if (was.plannedMinutes !== activity.plannedMinutes)
      tell(activity, { kind: "hours", from: was.plannedMinutes, to: activity.plannedMinutes });
  }
  for (const seen of before) if (!are.has(keyOf(seen))) tell(seen, { kind: "gone" });
  return news;
}

/** What changed since a person last said that they had seen their work; the first time nothing has. */
export async function newsFor(
  database: DataSource,
  person: string,
  now: readonly DeskActivity[],
): Promise<{ seenAt: string | null; news: DeskNews[] }> {
  const look = await database.getRepository(DeskLookEntity).findOneBy({ personId: person });
  if (look === null) {
    await keepSeen(database, person, now);
    return { seenAt: null, news: [] };
  }
  return { seenAt: look.at.toISOString(), news: newsBetween(JSON.parse(look.seen) as Seen[], now) };
}

export async function keepSeen(database: DataSource, person: string, now: readonly DeskActivity[]): Promise<void> {
  await database
    .getRepository(DeskLookEntity)
    .upsert({ personId: person, at: new Date(), seen: JSON.stringify(now.map(seenOf)) }, ["personId"]);
}
