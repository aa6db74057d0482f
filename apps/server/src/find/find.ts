import type { Found, Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { LOOKERS, groupsShown, maySee, seesAll } from "../project/reach.ts";
import { NAMED } from "../writers/keptNames.ts";
import { nameWords } from "../writers/nameWords.ts";
import { watchlistsFor } from "../watch/watchlists.ts";
import { meantBy } from "./misspelt.ts";
import { isInTitles, readMatters } from "../matters/matterRows.ts";

/** So many of a kind are shown. */
const SHOWN = { activities: 20, others: 8 } as const;
/** So many are looked at to find the likeliest. */
const LOOKED_AT = 200;
/** Of a word that is in so many names it does not matter in how many more. */
const COMMON = 3_000;
const MOST_WORDS = 6;

interface Term {
  readonly typed: string;
  /** Beginnings of words, one of which a name must have. */
  readonly read: readonly string[];
  /** In how many names, as far as that was counted. */
  readonly names: number;
}

interface ProjectRow {
  readonly id: string;
  readonly code: string;
  readonly name: string;
  readonly closed: number;
  readonly managerId: string;
  readonly programmeId: string | null;
}

const beginsWith = (word: string): string => `${word.replaceAll(/[\\%_]/g, "\\$&")}%`;
const anyWord = (alias: string, { read }: Term): string => `(${read.map(() => `${alias}.word like ?`).join(" or ")})`;

async function countNames(database: DataSource, read: readonly string[]): Promise<number> {
  const [row] = (await database.query(
    `select count(*) as n from (select 1 from find_word w where ${read.map(() => "w.word like ?").join(" or ")} limit ?) c`,
    [...read.map(beginsWith), COMMON],
  )) as { n: string }[];
  return Number(row!.n);
}

/** What is looked for by a word: the word, or what may have been meant where no name has it. */
async function termOf(database: DataSource, typed: string, isKnown: (word: string) => Promise<boolean>): Promise<Term> {
  const names = await countNames(database, [typed]);
  if (names > 0 || (await isKnown(typed))) return { typed, read: [typed], names };
  const meant = await meantBy(database, typed);
  return { typed, read: meant.length === 0 ? [typed] : meant, names: meant.length === 0 ? 0 : COMMON };
}

const hasTerm = (words: readonly string[], { read }: Term): boolean =>
  words.some((word) => read.some((each) => word.startsWith(each)));

/** How likely a name is what was meant: begun as typed, words whole, short. */
function likeness(text: string, terms: readonly Term[], name: string): number {
  const words = nameWords(name);
  const whole = terms.filter(({ read }) => read.some((each) => words.includes(each))).length;
  const begun = nameWords(text).every((word, i) => words[i]?.startsWith(word) === true);
  return (begun ? 10 : 0) + 3 * whole - words.length / 10;
}

const likeliest = <T>(rows: readonly T[], most: number, of: (row: T) => number): T[] =>
  rows
    .map((row) => ({ row, of: of(row) }))
    .sort((a, b) => b.of - a.of)
    .slice(0, most)
    .map(({ row }) => row);

interface Looking {
  readonly database: DataSource;
  readonly me: Me;
  readonly text: string;
  readonly terms: readonly Term[];
  /** Where a word is a project's code, the projects it may be; the terms are then the others. */
  readonly within: readonly string[] | null;
  /** The projects that are looked into; `null` for all. */
  readonly of: readonly string[] | null;
}

/** Keys of things of a kind that have all words; whoever sees no plans finds only activities that are theirs. */
async function things({ database, me, terms, of }: Looking, kind: string): Promise<{ project: string; id: string }[]> {
  const ordered = [...terms].sort((a, b) => a.names - b.names);
  if (ordered.length === 0) return [];
  const joins = ordered.slice(1).map(
    (term, i) =>
      `join find_word w${i + 1} on w${i + 1}.project_id = w0.project_id and w${i + 1}.kind = w0.kind
        and w${i + 1}.thing_id = w0.thing_id and ${anyWord(`w${i + 1}`, term)}`,
  );
  const own = mayLook(me)
    ? { sql: "", values: [] }
    : {
        sql: "join activity_person o on o.project_id = w0.project_id and o.activity_id = w0.thing_id and o.person_id = ?",
        values: [me.person],
      };
  return (await database.query(
    `select distinct w0.project_id as project, w0.thing_id as id from find_word w0 ${joins.join(" ")} ${own.sql}
      where ${anyWord("w0", ordered[0]!)} and w0.kind = ? ${of === null ? "" : "and w0.project_id in (?)"} limit ?`,
    [
      ...ordered.slice(1).flatMap(({ read }) => read.map(beginsWith)),
      ...own.values,
      ...ordered[0]!.read.map(beginsWith),
      kind,
      ...(of === null ? [] : [of]),
      LOOKED_AT,
    ],
  )) as { project: string; id: string }[];
}

const mayLook = (me: Me): boolean => LOOKERS.some((role) => me.roles.includes(role));

type FoundActivity = Found["activities"][number];

async function activities(looking: Looking): Promise<FoundActivity[]> {
  const keys = await things(looking, NAMED.activity);
  if (keys.length === 0) return [];
  const rows = (await looking.database.query(
    `select a.activity_id as id, a.project_id as project, p.code, a.name, a.branch, a.kind, a.state, a.finish
      from activity_row a join project p on p.id = a.project_id
      where (a.project_id, a.activity_id) in (${keys.map(() => "(?, ?)").join(", ")})`,
    keys.flatMap(({ project, id }) => [project, id]),
  )) as FoundActivity[];
  return likeliest(
    rows,
    SHOWN.activities,
    ({ name, state }) =>
      likeness(looking.text, looking.terms, name) - (state === "complete" ? 0.5 : state === "parked" ? 0.7 : 0),
  );
}

async function people(looking: Looking): Promise<Found["people"]> {
  const keys = await things(looking, NAMED.person);
  if (keys.length === 0) return [];
  const rows = (await looking.database.query(
    `select row_key as id, min(json_value(doc, '$.name')) as name from plan_row
      where table_name = 'people' and (project_id, row_key) in (${keys.map(() => "(?, ?)").join(", ")}) group by row_key`,
    keys.flatMap(({ project, id }) => [project, id]),
  )) as Found["people"];
  return likeliest(rows, SHOWN.others, ({ name }) => likeness(looking.text, looking.terms, name));
}

async function risks(looking: Looking): Promise<Found["risks"]> {
  const keys = await things(looking, NAMED.risk);
  if (keys.length === 0) return [];
  const rows = (await looking.database.query(
    `select r.row_key as id, r.project_id as project, p.code, json_value(r.doc, '$.name') as name
      from plan_row r join project p on p.id = r.project_id
      where r.table_name = 'risks' and (r.project_id, r.row_key) in (${keys.map(() => "(?, ?)").join(", ")})`,
    keys.flatMap(({ project, id }) => [project, id]),
  )) as Found["risks"];
  return likeliest(rows, SHOWN.others, ({ name }) => likeness(looking.text, looking.terms, name));
}

/** What stands in registers, for whoever sees or owns it. */
async function matters({ database, me, text, terms, within }: Looking): Promise<Found["matters"]> {
  if (terms.length === 0) return [];
  const titled = terms.map(({ typed, read }) => [...new Set([typed, ...read])]);
  const rows = await readMatters(database, me, { titled, closedToo: true }, LOOKED_AT);
  const found = rows.filter(({ projectId }) => within === null || (projectId !== null && within.includes(projectId)));
  return likeliest(
    found,
    SHOWN.others,
    ({ title, state }) => likeness(text, terms, title) - (state === "open" ? 0 : 0.5),
  ).map(({ id, kind, title, code, state }) => ({ id, kind, name: title, code: code ?? "", open: state === "open" }));
}

/** Issued periods, where someone writes "period" and a number, or a project and its period. */
async function periods(
  { database, of }: Looking,
  text: string,
  projects: readonly ProjectRow[],
): Promise<Found["periods"]> {
  const number = /\b(?:period|report)\s+(?:of\s+period\s+)?(\d{1,4})\b/i.exec(text)?.[1];
  if (number === undefined) return [];
  const rows = (await database.query(
    `select i.project_id as project, i.number, max(i.data_date) as dataDate from issued_period i
      where i.number = ? ${of === null ? "" : "and i.project_id in (?)"} group by i.project_id, i.number`,
    [Number(number), ...(of === null ? [] : [of])],
  )) as Omit<Found["periods"][number], "code">[];
  const codes = new Map(projects.map(({ id, code }) => [id, code]));
  return rows
    .map((row) => ({ ...row, code: codes.get(row.project) ?? "" }))
    .sort((a, b) => a.code.localeCompare(b.code))
    .slice(0, SHOWN.others);
}

const projectRows = (database: DataSource): Promise<ProjectRow[]> =>
  database.query(
    `select p.id, p.code, json_value(p.head, '$.name') as name, c.project_id is not null as closed,
        p.manager_id as managerId, p.programme_id as programmeId
      from project p left join project_closing c on c.project_id = p.id order by p.code`,
  );

const plainCode = (code: string): string => nameWords(code).join("");

/** The projects that a word which looks like a code may be. */
function projectsOfCode(word: string, projects: readonly ProjectRow[]): string[] {
  const code = plainCode(word);
  if (code === "" || !/[\d-]/.test(word)) return [];
  const exact = projects.filter((project) => plainCode(project.code) === code);
  return (exact.length > 0 ? exact : projects.filter((project) => plainCode(project.code).startsWith(code))).map(
    ({ id }) => id,
  );
}

/** Parts a text into words that are codes of projects and the words to look for in names. */
function readText(text: string, projects: readonly ProjectRow[]): { within: string[] | null; words: string[] } {
  let within: string[] | null = null;
  const rest: string[] = [];
  for (const piece of text.split(/\s+/)) {
    const of = projectsOfCode(piece, projects);
    if (of.length > 0 && within === null) within = of;
    else rest.push(piece);
  }
  return { within, words: nameWords(rest.join(" ")).slice(0, MOST_WORDS) };
}

function foundProjects(
  projects: readonly ProjectRow[],
  terms: readonly Term[],
  within: readonly string[] | null,
  text: string,
): Found["projects"] {
  const found = projects.filter(({ id, code, name }) =>
    within !== null && terms.length === 0
      ? within.includes(id)
      : terms.length > 0 &&
        (within === null || within.includes(id)) &&
        terms.every((term) => hasTerm([...nameWords(name), ...nameWords(code)], term)),
  );
  return likeliest(found, SHOWN.others, ({ name, closed }) => likeness(text, terms, name) - closed).map(
    ({ id, code, name, closed }) => ({ id, code, name, closed: closed === 1 }),
  );
}

async function foundWatchlists(database: DataSource, me: Me, terms: readonly Term[]): Promise<Found["watchlists"]> {
  if (!mayLook(me) || terms.length === 0) return [];
  return (await watchlistsFor(database, me))
    .filter(({ name }) => terms.every((term) => hasTerm(nameWords(name), term)))
    .slice(0, SHOWN.others)
    .map(({ id, name }) => ({ id, name }));
}

/** Groups by their names; there are few, and they are read as they are. */
async function foundGroups(
  { database, me, terms, text }: Looking,
  projects: readonly ProjectRow[],
): Promise<Found["groups"]> {
  if (terms.length === 0) return [];
  const rows = (await database.query(
    `select g.id, g.name, g.parent_id as parent, (select max(r.number) from issued_report r where r.subject_id = g.id) as issued from programme g`,
  )) as (Found["groups"][number] & { parent: string | null })[];
  const shown = groupsShown(
    me,
    rows,
    projects.map(({ programmeId }) => programmeId),
  );
  const found = shown.filter(({ name }) => terms.every((term) => hasTerm(nameWords(name), term)));
  return likeliest(found, SHOWN.others, ({ name }) => likeness(text, terms, name)).map(
    ({ parent: _parent, ...group }) => group,
  );
}

const groupNames = async (database: DataSource): Promise<string[]> =>
  ((await database.query("select name from programme")) as { name: string }[]).map(({ name }) => name);

const NOTHING: Found = {
  readAs: [],
  projects: [],
  activities: [],
  people: [],
  watchlists: [],
  groups: [],
  risks: [],
  matters: [],
  periods: [],
};

/** All that bears the words of a text and that someone may see. Whoever sees no plans finds activities of their own. */
export async function find(database: DataSource, me: Me, text: string): Promise<Found> {
  const looks = mayLook(me);
  if (!looks && me.person === null) return NOTHING;
  const all = await projectRows(database);
  const projects = looks ? all.filter((project) => maySee(me, project)) : all;
  const { within, words } = readText(text, projects);
  const known = new Set([
    ...projects.flatMap(({ name, code }) => [...nameWords(name), ...nameWords(code)]),
    ...(looks ? (await groupNames(database)).flatMap(nameWords) : []),
  ]);
  const isKnown = (word: string): boolean => [...known].some((each) => each.startsWith(word));
  const terms = await Promise.all(
    words.map((word) => termOf(database, word, async () => isKnown(word) || (await isInTitles(database, word)))),
  );
  const of = within ?? (looks && !seesAll(me) ? [...projects.map(({ id }) => id), ""] : null);
  const looking: Looking = { database, me, text: words.join(" "), terms, within, of };
  const readAs = terms
    .filter(({ typed, read }) => read[0] !== typed)
    .map(({ typed, read }) => ({ typed, read: [...read] }));
  if (!looks) return { ...NOTHING, readAs, activities: await activities(looking), matters: await matters(looking) };
  const [foundActivities, foundPeople, foundRisks, foundMatters, watchlists, groups, issued] = await Promise.all([
    activities(looking),
    within === null ? people(looking) : [],
    risks(looking),
    matters(looking),
    foundWatchlists(database, me, terms),
    within === null ? foundGroups(looking, projects) : [],
    periods(looking, text, projects),
  ]);
  return {
    readAs,
    projects: foundProjects(projects, terms, within, looking.text),
    activities: foundActivities,
    people: foundPeople,
    watchlists,
    groups,
    risks: foundRisks,
    matters: foundMatters,
    periods: issued,
  };
}
