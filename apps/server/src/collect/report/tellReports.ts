import type { Me } from "@chronometra/contract";
import { dateWords, formatHours } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { AccountEntity } from "../../access/accountEntity.ts";
import type { Telling } from "../../tell/post.ts";
import { listed, tellStanding } from "../../tell/standing.ts";
import type { ReportEntity } from "../kept/reportEntity.ts";

const saidIn = ({ date, minutes, percent, stage }: ReportEntity, name: string): string =>
  [
    dateWords(date),
    name,
    ...(minutes === null ? [] : [formatHours(minutes)]),
    ...(stage === null ? [] : [`at “${stage}”`]),
    ...(percent === null ? [] : [`${percent} %`]),
  ].join(", ");

/** Tells whoever reported what was returned to them: one message a person, with the word that was said. */
export async function tellReturned(
  manager: EntityManager,
  post: Telling,
  me: Me,
  returned: readonly { readonly report: ReportEntity; readonly name: string }[],
  word: string | null,
): Promise<void> {
  const persons = [...new Set(returned.map(({ report }) => report.personId))];
  const accounts = await manager.getRepository(AccountEntity).findBy({ personId: In(persons) });
  await post.put(
    manager,
    accounts.map((to) => {
      const own = returned.filter(({ report }) => report.personId === to.personId);
      return {
        ...{ to, from: me, kind: "decided" as const, link: "/desk/week", act: "Correct it" },
        subject: own.length === 1 ? "A report is returned to you" : `${own.length} reports are returned to you`,
        body: [word ?? "", listed(own.map(({ report, name }) => saidIn(report, name)))]
          .filter((part) => part !== "")
          .join("\n\n"),
      };
    }),
  );
}

/** Tells managers once that reports wait to be accepted, until none does; how many of which project stands beside it. */
export async function tellWaiting(database: DataSource, post: Telling, at = new Date()): Promise<void> {
  const rows = (await database.query(
    `select p.manager_id as manager, p.code, count(*) as n from report r join project p on p.id = r.project_id
      where r.state = 'submitted' group by p.manager_id, p.code order by p.code`,
  )) as { manager: string; code: string; n: string }[];
  const waits = new Map<string, string[]>();
  for (const { manager, code, n } of rows) waits.set(manager, [...(waits.get(manager) ?? []), `${code}: ${n}`]);
  const told = { name: "reports", subject: "Reports wait to be accepted", link: "/time", act: "Review" };
  await tellStanding(database, post, told, waits, at);
}
