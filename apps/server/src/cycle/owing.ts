import type { Me, Owing } from "@chronometra/contract";
import { addDays, epochDay, formatDate, mondayOf, parseDate, type ProjectHead } from "@chronometra/core";
import { In, type DataSource } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import type { Reporter } from "../writers/summarise.ts";
import { mayEdit, maySee } from "../project/reach.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import type { Post } from "../tell/post.ts";
import { ANY_REMINDER, periodAsked, periodReminderOf } from "../tell/reminders.ts";
import type { ReportingPeriodEntity } from "./cycleEntities.ts";
import { missingReporters, openPeriod, reportersIn } from "./cycleService.ts";

/**
 * People who have an account, with when they were last reminded of their time since a period began; `null` where they
 * were not.
 */
export async function reachedSince(
  database: DataSource,
  period: ReportingPeriodEntity | null,
): Promise<ReadonlyMap<string, string | null>> {
  if (period === null) return new Map();
  const rows = (await database.query(
    `select a.person_id as person, max(m.at) as at from account a left join notice m on m.account_id = a.id and m.at >= ? and m.subject like ?
     where a.person_id is not null group by a.person_id`,
    [new Date(`${period.fromDate}T00:00:00Z`), ANY_REMINDER],
  )) as { person: string; at: Date | null }[];
  return new Map(rows.map(({ person, at }) => [person, at === null ? null : at.toISOString()]));
}

interface Row {
  readonly id: string;
  readonly code: string;
  readonly head: string;
  readonly managerId: string;
  readonly programmeId: string | null;
  readonly people: string;
}

/** Projects that take part in a period: those with an approved plan that are not closed. */
const takingPart = (database: DataSource): Promise<Row[]> =>
  database.query(
    `select p.id, p.code, p.head, p.manager_id as managerId, p.programme_id as programmeId, f.people from project p join figures f on f.project_id = p.id and f.revision = p.revision
     where json_value(f.line, '$.baseline') is not null and p.id not in (select project_id from project_closing) order by p.code`,
  );

/** Mondays of the weeks from one day to another. */
function mondays(from: string, to: string): string[] {
  const found: string[] = [];
  for (let monday = mondayOf(parseDate(from)!); monday <= parseDate(to)!; monday = epochDay(addDays(monday, 7)))
    found.push(formatDate(monday));
  return found;
}

/**
 * Who owes time or progress of the open period in projects that someone sees, by name, each with all that they owe it
 * on.
 */
export async function owingOf(database: DataSource, me: Me): Promise<Owing> {
  const period = await openPeriod(database);
  if (period === null) return { number: null, from: null, dataDate: null, people: [] };
  const [rows, reporters, reach] = await Promise.all([
    takingPart(database),
    reportersIn(database, period),
    reachedSince(database, period),
  ]);
  const people = new Map<string, Owing["people"][number]>();
  for (const row of rows.filter((each) => maySee(me, each))) {
    const { id, code, head, people: text } = row;
    for (const person of missingReporters(id, JSON.parse(text) as Reporter[], period, reporters)) {
      const since = person.from > period.fromDate ? person.from : period.fromDate;
      const known = people.get(person.id) ?? {
        id: person.id,
        name: person.name,
        canBeReached: reach.has(person.id),
        remindedAt: reach.get(person.id) ?? null,
        mayRemind: false,
        projects: [],
        weeks: [],
      };
      people.set(person.id, {
        ...known,
        mayRemind: known.mayRemind || mayEdit(me, row),
        projects: [...known.projects, { id, code, name: (JSON.parse(head) as ProjectHead).name, since }],
        weeks: [...new Set([...known.weeks, ...mondays(since, period.dataDate)])].sort(),
      });
    }
  }
  return {
    number: period.number,
    from: period.fromDate,
    dataDate: period.dataDate,
    people: [...people.values()].sort((a, b) => a.name.localeCompare(b.name)),
  };
}

/** Reminds people of what they owe of the open period; each once, whatever number of projects it is on. */
export async function remindOfPeriod(
  database: DataSource,
  post: Post,
  me: Me,
  people: readonly string[],
  words: string,
): Promise<{ sent: number; failed: { to: string; why: string }[] }> {
  const owing = await owingOf(database, me);
  if (owing.number === null) throw new Failure("invalid", "No reporting period is open.");
  const chosen = owing.people.filter(({ id }) => people.includes(id));
  if (chosen.some(({ mayRemind }) => !mayRemind))
    throw new Failure("notAllowed", "Only people who work in your projects are reminded by you.");
  const accounts =
    chosen.length === 0
      ? []
      : await database.getRepository(AccountEntity).findBy({ personId: In(chosen.map(({ id }) => id)) });
  const on = (person: string | null): string =>
    chosen
      .find(({ id }) => id === person)!
      .projects.map(({ code, name }) => `${code} ${name}`)
      .join(", ");
  await inTransaction(database, (manager) =>
    post.put(
      manager,
      accounts.map((to) => ({
        to,
        ...{ kind: "asked" as const, about: periodAsked(to.personId!), subject: periodReminderOf(owing.number!) },
        body: `${words.trim()}\n\nNothing was reported yet on: ${on(to.personId)}.`,
        ...{ act: "Report", link: "/desk", from: me },
      })),
    ),
  );
  const reached = new Set(accounts.map(({ personId }) => personId));
  const others = people.filter((id) => !chosen.some((each) => each.id === id));
  const known = others.length === 0 ? [] : await database.getRepository(AccountEntity).findBy({ personId: In(others) });
  const gone = others.map((id) => ({
    to: known.find(({ personId }) => personId === id)?.name ?? "someone",
    why: "has reported meanwhile",
  }));
  return {
    sent: accounts.length,
    failed: [
      ...chosen.filter(({ id }) => !reached.has(id)).map(({ name }) => ({ to: name, why: "has no account here" })),
      ...gone,
    ],
  };
}
