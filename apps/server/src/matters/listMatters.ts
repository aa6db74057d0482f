import {
  MATTER_KINDS,
  TIE_PLACES,
  type Matter,
  type MatterCounts,
  type MatterEvents,
  type MatterKind,
  type Matters,
  type MatterView,
  type Me,
  type Tie,
  type TiePlace,
} from "@chronometra/contract";
import { In, type DataSource, type EntityManager } from "typeorm";
import { reservesOf } from "../approve/reserves.ts";
import { namesOf } from "../resources/namables.ts";
import { isClosed } from "../project/projectAccess.ts";
import { groupsBelow } from "../project/groupTree.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { findSeen, holdsEverywhere, holdsIn, mayEdit } from "../project/reach.ts";
import { todayOf } from "../shared/clock.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { MatterEventEntity, MatterTieEntity } from "./matterEntities.ts";
import {
  countMatters,
  ownersOf,
  readMatters,
  type MatterContent,
  type MatterQuestion,
  type MatterRow,
} from "./matterRows.ts";
import { matterSettings } from "./matterSettings.ts";
import { tieKey, tieNames } from "./ties.ts";

const MOST_SHOWN = 2000;

/** What someone may write of a matter. */
export function mayWrite(me: Me, row: MatterRow): Matter["mayWrite"] {
  if (row.isClosed !== 0 && row.projectId !== null) return null;
  const plans =
    row.projectId !== null
      ? mayEdit(me, { managerId: row.managerId!, programmeId: row.programmeId })
      : holdsIn(me, "controller", row.groupId) || (row.groupManager !== null && row.groupManager === me.id);
  if (plans) return "all";
  return row.owner !== null && ownersOf(me).includes(row.owner) ? "owners" : null;
}

/** The project that someone sees it lies in; whoever only owns it is told where it lies too. */
const projectOf = ({ projectId, code, projectName }: MatterRow): Matter["project"] =>
  projectId === null ? null : { id: projectId, code: code!, name: projectName! };

/** How risks stood when the last period of their project was issued, by their id. */
async function standingsBefore(
  manager: DataSource | EntityManager,
  projects: readonly string[],
): Promise<ReadonlyMap<string, { chance: number; severity: string | null }>> {
  const rows = (await manager.query(
    `select s.matter_id as id, s.chance, s.severity from matter_standing s
      where s.project_id in (?) and s.number = (select max(n.number) from matter_standing n where n.project_id = s.project_id)`,
    [[...projects, ""]],
  )) as { id: string; chance: number; severity: string | null }[];
  return new Map(rows.map(({ id, chance, severity }) => [id, { chance, severity }]));
}

async function tiesOf(manager: DataSource | EntityManager, ids: readonly string[]): Promise<Map<string, Tie[]>> {
  const rows = await manager
    .getRepository(MatterTieEntity)
    .find({ where: { matterId: In(ids) }, order: { position: "ASC" } });
  const found = new Map<string, Tie[]>();
  for (const { matterId, about, aboutId } of rows)
    found.set(matterId, [...(found.get(matterId) ?? []), { about: about as TiePlace, id: aboutId }]);
  return found;
}

/** All that matters speak of, by its id. */
interface Spoken {
  readonly today: string;
  readonly ties: ReadonlyMap<string, readonly Tie[]>;
  /** Whoever owns or raised one, by id. */
  readonly people: ReadonlyMap<string, string>;
  readonly tied: ReadonlyMap<string, string>;
  readonly before: ReadonlyMap<string, { chance: number; severity: string | null }>;
}

async function spokenOf(manager: DataSource | EntityManager, me: Me, rows: readonly MatterRow[]): Promise<Spoken> {
  const ids = rows.map(({ id }) => id);
  const ties = await tiesOf(manager, ids);
  const placed = rows.flatMap(({ id, projectId }) =>
    projectId === null ? [] : (ties.get(id) ?? []).map((tie) => ({ ...tie, project: projectId })),
  );
  const risks = rows.flatMap(({ kind, projectId }) => (kind === "risk" && projectId !== null ? [projectId] : []));
  const [people, tied, before] = await Promise.all([
    namesOf(
      manager,
      rows.flatMap(({ owner, raisedBy }) => [owner, raisedBy].flatMap((id) => id ?? [])),
    ),
    tieNames(manager, placed),
    standingsBefore(manager, [...new Set(risks)]),
  ]);
  return { today: todayOf(me), ties, people, tied, before };
}

const expectedOf = ({ expected, currency, digits }: MatterRow): Matter["expected"] =>
  expected === null ? null : { minor: Number(expected), currency: currency!, minorDigits: digits! };

/** What there is of a matter besides its row, where nothing is said that is empty. */
function besidesOf({
  content,
}: MatterRow): Pick<Matter, "text" | "strategy" | "response" | "residual" | "proximity" | "values"> {
  const said = (content === null ? {} : JSON.parse(content)) as MatterContent;
  const { text = "", strategy = null, response = "", residual = null, proximity = null, values = {} } = said;
  return { text, strategy, response, residual, proximity, values };
}

function shown(me: Me, row: MatterRow, { today, ties, people, tied, before }: Spoken): Matter {
  const { id, kind, title, state, severity, due, raisedOn, chance } = row;
  // A plan that was taken back has a risk open again, whatever was written when it was over.
  const closedOn = state === "open" ? null : row.closedOn;
  const ownerName = row.owner === null ? null : (people.get(row.owner) ?? "nobody known");
  return {
    ...{ id, kind, title, state, severity, due, raisedOn, closedOn, chance },
    ...besidesOf(row),
    project: projectOf(row),
    group: row.groupId === null ? null : { id: row.groupId, name: row.groupName ?? "" },
    owner: ownerName === null ? null : { id: row.owner!, name: ownerName },
    raisedBy: people.get(row.raisedBy ?? "") ?? "",
    overdue: state === "open" && due !== null && due < today,
    expected: expectedOf(row),
    ties: (ties.get(id) ?? []).map((tie) => ({
      ...tie,
      name: tied.get(`${row.projectId} ${tieKey(tie)}`) ?? "not there any more",
    })),
    before: before.get(id) ?? null,
    mayWrite: mayWrite(me, row),
  };
}

/** Matters as they are shown, with the names of all that they speak of. */
export async function presentMatters(
  manager: DataSource | EntityManager,
  me: Me,
  rows: readonly MatterRow[],
): Promise<Matter[]> {
  const spoken = await spokenOf(manager, me, rows);
  return rows.map((row) => shown(me, row, spoken));
}

/** What an address asks for. */
export type Query = Readonly<Record<string, unknown>>;
const text = (query: Query, name: string): string | null => {
  const value = query[name];
  return typeof value === "string" && value !== "" ? value : null;
};

/** Reads what an address asks for. @throws {Failure} invalid, with what is wrong */
async function questionOf(manager: DataSource | EntityManager, me: Me, query: Query): Promise<MatterQuestion> {
  const [kind, project, group, tie] = ["kind", "project", "group", "tie"].map((name) => text(query, name));
  if (kind != null && !MATTER_KINDS.some((each) => each === kind))
    throw new Failure("invalid", `There is no register of "${kind}".`);
  const [about, ...rest] = (tie ?? "").split(":");
  if (tie != null && !TIE_PLACES.some((each) => each === about))
    throw new Failure("invalid", `Nothing is tied to "${tie}"; say as activity:A10.`);
  const programmes = group == null ? [] : await manager.getRepository(ProgrammeEntity).find();
  if (group != null)
    orNotFound(
      programmes.find(({ id }) => id === group),
      "group of that address",
    );
  return {
    ...(kind == null ? {} : { kind: kind as MatterKind }),
    ...(project == null ? {} : { project, closedToo: true }),
    ...(group == null ? {} : { groups: [...groupsBelow(programmes, group)] }),
    ...(tie == null ? {} : { tie: { about: about as TiePlace, id: rest.join(":") } }),
    ...(text(query, "all") === null ? { open: true } : { closedToo: true }),
    ...(text(query, "overdue") === null ? {} : { overdueOn: todayOf(me) }),
    ...(text(query, "mine") === null ? {} : { owners: ownersOf(me) }),
  };
}

async function contingencyOf(database: DataSource, me: Me, projectId: string): Promise<Matters["contingency"]> {
  const { balances, currency, minorDigits } = await reservesOf(database, me, projectId);
  return { minor: balances.contingency, currency, minorDigits };
}

/** What stands in the registers, as far as someone sees it, and what they may do there. */
export async function listMatters(database: DataSource, me: Me, query: Query): Promise<Matters> {
  const asked = await questionOf(database, me, query);
  const project = asked.project === undefined ? null : await findSeen(database, me, asked.project);
  const rows = await readMatters(database, me, asked, MOST_SHOWN);
  return {
    settings: await matterSettings(database),
    matters: await presentMatters(database, me, rows),
    total: rows.length < MOST_SHOWN ? rows.length : await countMatters(database, me, asked),
    contingency: project === null ? null : await contingencyOf(database, me, project.id),
    mayAdd:
      project === null
        ? me.roles.includes("controller") || me.roles.includes("projectManager")
        : mayEdit(me, project) && !(await isClosed(database, project)),
    maySet: holdsEverywhere(me, "controller"),
  };
}

/** The matter of that id, for someone who sees or owns it. To others it is not there. */
export async function findMatter(manager: DataSource | EntityManager, me: Me, id: string): Promise<MatterRow> {
  const [row] = await readMatters(manager, me, { id, closedToo: true }, 1);
  return orNotFound(row, "matter of that address");
}

const MOST_EVENTS = 500;

/** A matter with what happened to it. */
export async function viewMatter(database: DataSource, me: Me, id: string): Promise<MatterView> {
  const [matter] = await presentMatters(database, me, [await findMatter(database, me, id)]);
  const events = await database
    .getRepository(MatterEventEntity)
    .find({ where: { matterId: id }, order: { id: "DESC" }, take: MOST_EVENTS });
  const names = await namesOf(
    database,
    events.map(({ accountId }) => accountId),
  );
  return {
    matter: matter!,
    settings: await matterSettings(database),
    events: events.map(({ at, accountId, field, was, value }): MatterEvents[number] => ({
      ...{ at: at.toISOString(), by: names.get(accountId) ?? "", field, was, value },
    })),
  };
}

/** How many open matters are overdue, among those that someone sees, and what is their own. */
export async function matterCounts(database: DataSource, me: Me): Promise<MatterCounts> {
  const overdueOn = todayOf(me);
  const owners = ownersOf(me);
  const [overdue, mine, mineOverdue] = await Promise.all([
    countMatters(database, me, { overdueOn }),
    countMatters(database, me, { owners, open: true }),
    countMatters(database, me, { owners, overdueOn }),
  ]);
  return { overdue, mine, mineOverdue };
}
