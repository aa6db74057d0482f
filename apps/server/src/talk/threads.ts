import {
  TALK_PLACES,
  type Me,
  type ResponseOf,
  type TalkAbout,
  type TalkPlace,
  type TalkThread,
  type TalkThreads,
} from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { maySee } from "../project/reach.ts";
import { talkAbout } from "./following.ts";
import { spokenAt } from "./spoken.ts";
import { findProject } from "../project/projectAccess.ts";
import { projectsWorkedIn } from "../project/worksIn.ts";
import { orNotFound } from "../shared/failure.ts";

const MOST_THREADS = 100;

interface Row extends Omit<TalkPlace, "project"> {
  readonly projectId: string;
  readonly count: string;
  readonly lastId: string;
}

/** Where something was said, the newest first: in a project, or where someone takes part. */
function rowsOf(database: DataSource, me: Me, project: string | null): Promise<Row[]> {
  const which =
    project === null
      ? `exists (select 1 from following f where f.account_id = ? and f.about = m.about and f.project_id = m.project_id
          and f.about_id = m.about_id and f.ended = 0)
         or exists (select 1 from notice n where n.account_id = ? and n.about = concat_ws(' ', 'talk', m.about, m.project_id, m.about_id))`
      : `m.project_id = ? or (m.about = 'matter' and (m.about_id like concat(?, ':%')
          or m.about_id in (select x.id from matter x where x.project_id = ?)))`;
  return database.query(
    `select m.about, m.project_id as projectId, m.about_id as aboutId, count(*) as count,
        (select l.id from talk_message l where l.about = m.about and l.project_id = m.project_id and l.about_id = m.about_id
          order by l.at desc, l.id limit 1) as lastId
      from talk_message m where ${which} group by m.about, m.project_id, m.about_id
      order by max(m.at) desc limit ${MOST_THREADS + 1}`,
    project === null ? [me.id, me.id] : [project, project, project],
  );
}

interface Last {
  readonly id: string;
  readonly accountId: string;
  readonly at: Date;
  readonly text: string;
  readonly removedBy: string | null;
}

/** What someone sees of the talk in a project: all, or that about its work where they only work there. */
async function whatSees(database: DataSource, me: Me, id: string): Promise<readonly TalkAbout[]> {
  const project = await findProject(database, id);
  if (maySee(me, project)) return TALK_PLACES;
  const works = await projectsWorkedIn(database, me.person, [id]);
  return orNotFound(works.has(id) ? (["project", "activity"] as const) : null, "project of that address");
}

/** How much was said in a project, thing by thing. */
export async function countTalk(
  database: DataSource,
  me: Me,
  project: string,
): Promise<ResponseOf<"GET /api/projects/:project/talk-counts">> {
  const seen = await whatSees(database, me, project);
  const rows = (await database.query(
    `select m.about, m.about_id as aboutId, count(*) as count,
        (select count(*) from notice n where n.account_id = ? and n.seen_at is null
          and n.about = concat_ws(' ', 'talk', m.about, m.project_id, m.about_id)) as unread
      from talk_message m where m.project_id = ? and m.about in (?) group by m.about, m.about_id`,
    [me.id, project, seen],
  )) as { about: TalkAbout; aboutId: string; count: string; unread: string }[];
  return rows.map(({ about, aboutId, count, unread }) => ({
    ...{ about, aboutId, count: Number(count), unread: Number(unread) },
  }));
}

/** About what something was said, the newest first. */
export async function listThreads(database: DataSource, me: Me, project: string | null): Promise<TalkThreads> {
  if (project !== null) await whatSees(database, me, project);
  const rows = await rowsOf(database, me, project);
  const [lasts, unread, names] = await Promise.all([
    database.query(
      "select id, account_id as accountId, at, left(text, 300) as text, removed_by as removedBy from talk_message where id in (?)",
      [[...rows.map(({ lastId }) => lastId), ""]],
    ) as Promise<Last[]>,
    database.query(
      "select about, count(*) as count from notice where account_id = ? and kind = 'talk' and seen_at is null group by about",
      [me.id],
    ) as Promise<{ about: string; count: string }[]>,
    accountNames(database),
  ]);
  const lastOf = new Map(lasts.map((last) => [last.id, last]));
  const unreadOf = new Map(unread.map(({ about, count }) => [about, Number(count)]));
  const threads: TalkThread[] = [];
  for (const { about, projectId, aboutId, count, lastId } of rows.slice(0, MOST_THREADS)) {
    const place: TalkPlace = { about, project: projectId, aboutId };
    const spoken = await spokenAt(database, place);
    const last = lastOf.get(lastId);
    if (spoken === null || last === undefined || !spoken.isSeenBy(me)) continue;
    threads.push({
      ...{ place, name: spoken.name, count: Number(count), unread: unreadOf.get(talkAbout(place)) ?? 0 },
      last: {
        by: names.get(last.accountId) ?? "",
        at: last.at.toISOString(),
        text: last.removedBy === null ? last.text : "",
      },
    });
  }
  return { threads, more: rows.length > MOST_THREADS };
}
