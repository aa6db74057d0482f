import type { MatterKind, MatterState, Me, NewMatter, Strategy, Tie } from "@chronometra/contract";
import type { OwnValue } from "@chronometra/core";
import type { DataSource, EntityManager } from "typeorm";
import { maySee, seenGroupSql, seenSql, seesGroup } from "../project/reach.ts";

/** All of a matter that nothing is asked by. */
export interface MatterContent {
  readonly text?: string;
  readonly strategy?: Strategy | null;
  readonly response?: string;
  readonly residual?: { readonly chance: number; readonly severity: string | null } | null;
  readonly proximity?: string | null;
  readonly values?: Readonly<Record<string, OwnValue>>;
  /** The account that settled it; said no more once it is open again. */
  readonly closedBy?: string | null;
}

/** A matter as it is read, with where it lies. */
export interface MatterRow {
  readonly id: string;
  readonly kind: MatterKind;
  readonly projectId: string | null;
  readonly groupId: string | null;
  readonly riskId: string | null;
  readonly title: string;
  readonly state: MatterState;
  readonly severity: string | null;
  readonly owner: string | null;
  readonly raisedBy: string | null;
  readonly raisedOn: string | null;
  readonly due: string | null;
  readonly closedOn: string | null;
  readonly chance: number | null;
  readonly content: string | null;
  readonly expected: string | null;
  readonly currency: string | null;
  readonly digits: number | null;
  readonly code: string | null;
  readonly projectName: string | null;
  readonly managerId: string | null;
  readonly programmeId: string | null;
  readonly isClosed: number;
  readonly groupName: string | null;
  readonly groupManager: string | null;
}

interface Condition {
  readonly sql: string;
  readonly values: readonly unknown[];
}

const all = (conditions: readonly Condition[]): Condition => ({
  sql: conditions.map(({ sql }) => sql).join(" and "),
  values: conditions.flatMap(({ values }) => values),
});

const TIED = "in (select t.matter_id from matter_tie t where t.about_id = ? and t.about = ?)";

const literally = (text: string): string => text.replaceAll(/[\\%_]/g, "\\$&");

/** That a word of the title begins with one of some texts. */
const titledSql = (beginnings: readonly string[]): Condition => ({
  sql: `(${beginnings.map(() => "m.title like ? or m.title like ?").join(" or ")})`,
  values: beginnings.flatMap((text) => [`${literally(text)}%`, `% ${literally(text)}%`]),
});

/**
 * Matters of all kinds: risks of projects as their plans have them, with what was written of them besides, and all
 * others. What can be told of either without looking at the rest is asked there, where there are indices.
 */
function matters({ id, kind, project, open, overdueOn, owners, tie, titled }: MatterQuestion): Condition {
  const own: Condition[] = [{ sql: "m.risk_id is null and m.removed = 0", values: [] }];
  const risks: Condition[] = [{ sql: "true", values: [] }];
  const both = (ofOwn: string, ofRisks: string, ...values: unknown[]): void => {
    own.push({ sql: ofOwn, values });
    risks.push({ sql: ofRisks, values });
  };
  const [projectId = "", riskId = ""] = (id ?? "").split(/:(.*)/s);
  if (id !== undefined) own.push({ sql: "m.id = ?", values: [id] });
  if (id !== undefined) risks.push({ sql: "h.project_id = ? and h.risk_id = ?", values: [projectId, riskId] });
  if (kind !== undefined) own.push({ sql: "m.kind = ?", values: [kind] });
  if (kind !== undefined && kind !== "risk") risks.push({ sql: "false", values: [] });
  if (project !== undefined) both("m.project_id = ?", "h.project_id = ?", project);
  if (open === true) both("m.state = 'open'", "h.gone is null");
  if (overdueOn !== undefined) both("m.state = 'open' and m.due < ?", "h.gone is null and s.due < ?", overdueOn);
  if (owners !== undefined) both("m.owner in (?)", "s.owner in (?)", owners);
  if (titled !== undefined) {
    risks.push({ sql: "false", values: [] });
    own.push(...titled.map(titledSql));
  }
  if (tie !== undefined) both(`m.id ${TIED}`, `s.id ${TIED}`, tie.id, tie.about);
  const [ofOwn, ofRisks] = [all(own), all(risks)];
  const others = `select m.id, m.kind, m.project_id, m.group_id, m.risk_id, m.title, m.state, m.severity, m.owner,
      m.raised_by, m.raised_on, m.due, m.closed_on, m.chance, m.content, null as expected, null as currency, null as digits
    from matter m where ${ofOwn.sql}`;
  const ofPlans = `select concat(h.project_id, ':', h.risk_id), 'risk', h.project_id, null, h.risk_id, h.name,
      case when h.gone is null then 'open' when h.gone = 'struck' then 'struck' else 'settled' end, s.severity, s.owner,
      s.raised_by, s.raised_on, s.due, s.closed_on, h.chance, s.content, h.expected, h.currency, h.digits
    from risk_head h left join matter s on s.id = concat(h.project_id, ':', h.risk_id) where ${ofRisks.sql}`;
  return { sql: `${others} union all ${ofPlans}`, values: [...ofOwn.values, ...ofRisks.values] };
}

const PLACED = `left join project p on p.id = x.project_id left join programme g on g.id = x.group_id
  left join project_closing c on c.project_id = x.project_id`;

const COLUMNS = `x.id, x.kind, x.project_id as projectId, x.group_id as groupId, x.risk_id as riskId,
  x.title, x.state, x.severity, x.owner, x.raised_by as raisedBy, x.raised_on as raisedOn, x.due, x.closed_on as closedOn,
  x.chance, x.content, x.expected, x.currency, x.digits, p.code, json_value(p.head, '$.name') as projectName,
  p.manager_id as managerId, p.programme_id as programmeId, c.project_id is not null as isClosed,
  g.name as groupName, g.manager_id as groupManager`;

/** What of the registers is asked for; all that is left out does not matter. */
export interface MatterQuestion {
  readonly id?: string;
  readonly kind?: MatterKind;
  readonly project?: string;
  /** Groups, what lies in them, and matters of their own. */
  readonly groups?: readonly string[];
  /** Open ones; left out, all. */
  readonly open?: boolean;
  /** Open ones due before that day. */
  readonly overdueOn?: string;
  /** Those that one of these owns. */
  readonly owners?: readonly string[];
  readonly tie?: Tie;
  /** Those with words in the title that begin so, of each list one; without the risks of plans, which are found as such. */
  readonly titled?: readonly (readonly string[])[];
  /** Those of closed projects as well. */
  readonly closedToo?: boolean;
}

/** Who someone is in registers: their account, and the person that they are. */
export const ownersOf = ({ id, person }: Pick<Me, "id" | "person">): string[] =>
  person === null ? [id] : [id, person];

/** Those of what is asked for that someone sees, owns or raised, as `x`, with their projects as `p`: what comes after `from`. */
function asRead(me: Me, asked: MatterQuestion): Condition {
  const [projects, groups] = [seenSql(me, "p"), seenGroupSql(me, "x.group_id")];
  const { groups: within, closedToo = false } = asked;
  const conditions: Condition[] = [
    {
      sql: `((x.project_id is not null and ${projects.sql}) or (x.project_id is null and ${groups.sql}) or x.owner in (?) or x.raised_by = ?)`,
      values: [...projects.values, ...groups.values, ownersOf(me), me.id],
    },
  ];
  if (within !== undefined)
    conditions.push({
      sql: "(p.programme_id in (?) or x.group_id in (?))",
      values: [
        [...within, ""],
        [...within, ""],
      ],
    });
  if (!closedToo) conditions.push({ sql: "c.project_id is null", values: [] });
  const [from, which] = [matters(asked), all(conditions)];
  return { sql: `(${from.sql}) x ${PLACED} where ${which.sql}`, values: [...from.values, ...which.values] };
}

/** The first of what is asked for, by when it is due. */
export async function readMatters(
  manager: DataSource | EntityManager,
  me: Me,
  asked: MatterQuestion,
  most: number,
): Promise<MatterRow[]> {
  const { sql, values } = asRead(me, asked);
  return (await manager.query(
    `select ${COLUMNS} from ${sql}
      order by x.state <> 'open', x.due is null, x.due, p.code, x.title, x.id limit ${most}`,
    [...values],
  )) as MatterRow[];
}

/** Whether someone sees a matter: where they look into what it lies in, own it, or raised it. */
export const seesMatter = (
  me: Me,
  { projectId, managerId, programmeId, groupId, owner, raisedBy }: MatterRow,
): boolean =>
  raisedBy === me.id ||
  (owner !== null && ownersOf(me).includes(owner)) ||
  (projectId === null ? seesGroup(me, groupId) : maySee(me, { managerId: managerId!, programmeId }));

/** The matter of that id, whoever asks; `null` where there is none. */
export async function matterOf(manager: DataSource | EntityManager, id: string): Promise<MatterRow | null> {
  const { sql, values } = matters({ id });
  const rows = await manager.query(`select ${COLUMNS} from (${sql}) x ${PLACED}`, [...values]);
  return (rows as MatterRow[])[0] ?? null;
}

/** Whether a word begins so in the title of anything in a register. */
export async function isInTitles(database: DataSource, beginning: string): Promise<boolean> {
  const { sql, values } = titledSql([beginning]);
  const rows = await database.query(`select 1 from matter m where m.removed = 0 and ${sql} limit 1`, [...values]);
  return (rows as unknown[]).length > 0;
}

/** What stands in any register, or among the risks of any plan, under one of some titles, whoever asks. */
export async function titledSo(
  database: DataSource,
  titles: readonly string[],
): Promise<Pick<NewMatter, "kind" | "project" | "group" | "title">[]> {
  const asked = [...titles, ""];
  return database.query(
    `select kind, project_id as project, group_id as \`group\`, title from matter
        where removed = 0 and risk_id is null and title in (?)
      union all select 'risk', project_id, null, name from risk_head where name in (?)`,
    [asked, asked],
  );
}

/** How many there are of what is asked for. */
export async function countMatters(
  manager: DataSource | EntityManager,
  me: Me,
  asked: MatterQuestion,
): Promise<number> {
  const { sql, values } = asRead(me, asked);
  const [row] = (await manager.query(`select count(*) as count from ${sql}`, [...values])) as [{ count: string }];
  return Number(row.count);
}
