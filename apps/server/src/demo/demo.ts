import { randomUUID } from "node:crypto";
import type { Me } from "@chronometra/contract";
import {
  acceptReports,
  addDays,
  type Change,
  dateWords,
  epochDay,
  formatDate,
  parseDate,
  type Plan,
  type ReportContent,
  schedulePlan,
  toBundle,
} from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { addAccount, hashPassword } from "../access/accounts.ts";
import { AccountEntity } from "../access/accountEntity.ts";
import { askApproval } from "../approve/approveService.ts";
import { ReportEntity } from "../collect/kept/reportEntity.ts";
import { ReportingPeriodEntity, SettingEntity } from "../cycle/cycleEntities.ts";
import { planPeriods } from "../cycle/reportingCalendar.ts";
import { closeProject, closingOf } from "../cycle/closing.ts";
import { issuePeriod, lockPeriod } from "../cycle/cycleService.ts";
import { charterInDemo } from "./charters.ts";
import { fillBoxes, gatheredInDemo } from "./boxed.ts";
import { begunInDemo } from "./begun.ts";
import { askedInDemo, gatesInDemo } from "./gates.ts";
import { SAID } from "./invented/said.ts";
import { issueGroup } from "../report/groupReport.ts";
import { makeReport } from "../report/makeReport.ts";
import { writeSaid } from "../report/said.ts";
import { findSubject, HOUSE } from "../report/subjects.ts";
import { storeChanges } from "../plan/changeService.ts";
import { createProject, planWith } from "../begin/createProject.ts";
import { writeProject } from "../plan/writeProjects.ts";
import { takeInMissing } from "../resources/register.ts";
import { setExchange } from "../portfolio/exchange.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { inTransaction } from "../shared/database.ts";
import { buildPlan } from "./invented/buildPlan.ts";
import { keepingOf } from "./invented/keeping.ts";
import { dayAfterDate, livePeriod } from "./invented/livePeriod.ts";
import { PEOPLE } from "./invented/people.ts";
import { ASIDE, PROGRAMMES, PROJECTS, type DemoProject } from "./invented/projects.ts";
import { notedInDemo } from "./noted.ts";
import { registersInDemo, risksInDemo } from "./registers.ts";
import { putForwardInDemo } from "./putForward.ts";
import { Random } from "./invented/random.ts";
import { POST, UNTOLD, approve, at, change, planOf, type LiveProject, type World } from "./world.ts";
import { tellDifferences } from "../tell/moved/differences.ts";
import { talkedInDemo } from "./talked.ts";

const SEED = 20_260_202;
const PASSWORD = "saltmarrow";

/** How to sign in to the demo world. */
export const DEMO_SIGN_INS = {
  password: PASSWORD,
  people: [
    { login: "ines", is: "Ines Okafor, controller" },
    { login: "tomas", is: "Tomas Lindqvist, project manager (also books time)" },
    { login: "margit", is: "Margit Adeyemi, approver" },
    { login: "amadou", is: "Amadou Keller, contributor" },
    { login: "quill", is: "Quill Marchetti, reader" },
    { login: "wim", is: "Wim Castellan, reader of one group" },
    { login: "dagny", is: "Dagny Osei, administrator" },
  ],
} as const;

/** Data dates of the reporting periods; the last one is open. */
const DATA_DATES = [
  "2026-02-27",
  "2026-03-27",
  "2026-04-24",
  "2026-05-29",
  "2026-06-26",
  "2026-07-31",
  "2026-08-28",
  "2026-09-25",
  "2026-10-30",
  "2026-11-27",
] as const;
/** The reporting calendar after that. */
const PLANNED_DATES = ["2026-12-18", "2027-01-29", "2027-02-26", "2027-03-26"] as const;
const FIRST_DAY = "2026-02-01";
const OPEN_PERIOD = DATA_DATES.length;
/** From this period on the controller gathers the projects' reports. */
const REPORTED_FROM = 8;

/** Time is reported up to here in the open period; the newest of it waits for acceptance. */
const REPORTED_TO = "2026-11-20";
const ACCEPTED_TO = "2026-11-13";
const REBASELINED_IN = 6;
/** Days from the dates as learnt to the date newly promised. */
const NEW_PROMISE_DAYS = 35;
/** People who have not reported in the open period yet. */
const SILENT = new Set(
  ["Eskil Tanaka", "Piet Morales", "Ignace Obuya", "Nkechi Sorensen", "Leocadia Park", "Zofia Abara"].map(
    (name) => PEOPLE.find((person) => person.name === name)!.id,
  ),
);
/** Who answers for the programmes, in their order; for the last nobody does yet. */
const ANSWER: readonly string[] = ["Tomas Lindqvist", "Radu Fennimore"];
/** Projects whose data date nobody has moved to the open period yet. */
const BEHIND = new Set(["FS-03", "SW-02"]);

/**
 * Fills an empty database with the Saltmarrow Estuary Authority, by the same changes that users make.
 * @param say is told what is being done
 * @returns whether the database holds the demo world now
 */
export async function loadDemoIfEmpty(database: DataSource, say: (words: string) => void): Promise<boolean> {
  const marker = await database.getRepository(SettingEntity).findOneBy({ name: "demo" });
  if (marker?.value === "complete") return true;
  if (marker === null && (await database.getRepository(AccountEntity).count()) > 0) return false;
  // A start that was killed while it loaded: nobody has been served from it, so it is begun anew.
  if (marker !== null) await beginAnew(database);
  await database.getRepository(SettingEntity).insert([
    { name: "demo", value: "loading" },
    { name: "organisation", value: "Saltmarrow Estuary Authority" },
  ]);
  const world = await populate(database);
  const projects: LiveProject[] = [];
  for (const demo of PROJECTS) projects.push(await bring(world, demo));
  await charterInDemo(world, projects);
  const gated = {
    ...world,
    project: (code: string) => projects.find(({ demo }) => demo.code === code)!,
  };
  await gatesInDemo(gated);
  await risksInDemo(world, projects);
  // In a world of their own, so that what the dozen go through stays what it is.
  const aside: World = { ...world, random: new Random(SEED + 1), booked: new Map() };
  const others: LiveProject[] = [];
  for (const demo of ASIDE) others.push(await bring(aside, demo));
  for (let period = 1; period <= OPEN_PERIOD; period++) {
    if (period === OPEN_PERIOD) await toldSoFar(database);
    say(`demo data: period ${period} of ${OPEN_PERIOD}`);
    await livePortfolio(world, projects, period);
    await liveAside(aside, others, period);
  }
  for (const project of projects) {
    await fillBoxes(world, project, dayString(dayAfterDate(DATA_DATES.at(-1)!)));
    await gatheredInDemo(world, project);
  }
  await begunInDemo(world, projects, DATA_DATES.at(-1)!);
  await notedInDemo(world, projects, at(DATA_DATES.at(-1)!));
  await registersInDemo(world, projects);
  await talkedInDemo(world, projects);
  await putForwardInDemo(world, projects);
  await askedInDemo(gated, POST);
  await tellInDemo(world, projects);
  await tellDifferences(database, POST, at(DATA_DATES.at(-1)!));
  await setExchange(database, world.controller, {
    currency: "EUR",
    minorDigits: 2,
    rates: [
      { currency: "ISK", from: "2026-01-01", rate: 0.0068 },
      { currency: "ISK", from: "2026-07-01", rate: 0.0069 },
    ],
  });
  await planPeriods(
    database,
    PLANNED_DATES.map((dataDate) => ({ dataDate, issueBy: `${dayString(epochDay(parseDate(dataDate)! + 4))}T12:00` })),
  );
  await takeInMissing(database, world.controller);
  await database.getRepository(SettingEntity).update({ name: "demo" }, { value: "complete" });
  return true;
}

/** Empties the tables of this application, and no others, and makes them again. */
async function beginAnew(database: DataSource): Promise<void> {
  const runner = database.createQueryRunner();
  try {
    await runner.query("set foreign_key_checks = 0");
    const tables = (await runner.query(
      "select table_name as name from information_schema.tables where table_schema = database()",
    )) as { name: string }[];
    for (const { name } of tables) await runner.query(`drop table if exists \`${name}\``);
    await runner.query("set foreign_key_checks = 1");
  } finally {
    await runner.release();
  }
  await database.runMigrations({ transaction: "each" });
}

async function populate(database: DataSource): Promise<World> {
  const passwordHash = await hashPassword(PASSWORD);
  const accounts = new Map<string, Me>();
  for (const person of PEOPLE) {
    const login = person.name
      .split(" ")[0]!
      .normalize("NFD")
      .replace(/[^A-Za-z]/g, "");
    accounts.set(
      person.name,
      await addAccount(database, {
        login,
        name: person.name,
        passwordHash,
        roles: [...person.roles],
        personId: person.id,
      }),
    );
  }
  for (const [position, name] of PROGRAMMES.entries())
    await database.getRepository(ProgrammeEntity).insert({
      id: randomUUID(),
      name,
      position,
      parentId: null,
      managerId: accounts.get(ANSWER[position] ?? "")?.id ?? null,
    });
  const fairway = await database.getRepository(ProgrammeEntity).findOneByOrFail({ name: PROGRAMMES[1] });
  await addAccount(database, {
    ...{ login: "wim", name: "Wim Castellan", passwordHash, personId: null },
    ...{ roles: ["reader"], only: { reader: [fairway.id] } },
  });
  return {
    database,
    accounts,
    controller: accounts.get("Ines Okafor")!,
    approver: accounts.get("Margit Adeyemi")!,
    random: new Random(SEED),
    booked: new Map(),
  };
}

/** A project comes in, and its manager asks for approval; all but the last are approved before they begin. */
async function bring(world: World, demo: DemoProject): Promise<LiveProject> {
  const { database } = world;
  const manager = world.accounts.get(demo.manager)!;
  const programme = await database.getRepository(ProgrammeEntity).findOneByOrFail({ name: demo.programme });
  const bundle = buildPlan(demo, world.random);
  const project = await inTransaction(database, (tx) =>
    createProject(tx, manager, {
      plan: planWith(bundle, undefined),
      programmeId: programme.id,
      managerId: manager.id,
      label: `Imported ${demo.code}.json`,
    }),
  );
  await writeProject(database, manager, project.id, (writing, locked) =>
    storeChanges(writing, locked, {
      changes: keepingOf(bundle, demo),
      label: "Own fields, teams, categories and risks",
    }),
  );
  if (demo.story === "unapproved") {
    await writeProject(database, manager, project.id, (writing, locked) =>
      askApproval(
        writing,
        locked,
        POST,
        { word: "Scope agreed with the water quality board; buoys are on order from January." },
        at("2026-11-19"),
      ),
    );
  } else {
    const day =
      demo.start < "2026-02-10"
        ? "2026-01-28"
        : new Date(at(demo.start).getTime() - 6 * 86_400_000).toISOString().slice(0, 10);
    await approve(
      world,
      project.id,
      manager,
      "Plan as agreed with the programme board.",
      "Agreed by the board; funds released.",
      day,
    );
  }
  return { demo, id: project.id, manager };
}

async function livePortfolio(world: World, projects: readonly LiveProject[], period: number): Promise<void> {
  const dataDate = DATA_DATES[period - 1]!;
  const former = DATA_DATES[period - 2];
  const fromDate = former === undefined ? FIRST_DAY : dayString(dayAfterDate(former));
  const issueBy = `${dayString(epochDay(parseDate(dataDate)! + 4))}T12:00`;
  await world.database.getRepository(ReportingPeriodEntity).insert({ number: period, fromDate, dataDate, issueBy });
  await liveThrough(world, projects, period, fromDate, dataDate);
  if (period >= REPORTED_FROM && period < OPEN_PERIOD) await reportGroups(world, dataDate);
}

/** The controller gathers what the projects reported: each programme, and the whole. */
async function reportGroups(world: World, dataDate: string): Promise<void> {
  const programmes = await world.database.getRepository(ProgrammeEntity).find();
  for (const id of [...programmes.map((each) => each.id), HOUSE]) {
    const subject = await findSubject(world.database, id);
    if (subject.of === "group")
      await issueGroup(world.database, POST, world.controller, subject, at(dataDate, "19:00"));
  }
}

/** A period of the projects that go their own way; one that is over is closed, with what is left of it dropped. */
async function liveAside(world: World, projects: readonly LiveProject[], period: number): Promise<void> {
  const former = DATA_DATES[period - 2];
  await liveThrough(
    world,
    projects.filter(({ demo }) => demo.closedAfter === undefined || period <= demo.closedAfter),
    period,
    former === undefined ? FIRST_DAY : dayString(dayAfterDate(former)),
    DATA_DATES[period - 1]!,
  );
  for (const { demo, id, manager } of projects) {
    if (demo.closedAfter !== period) continue;
    const { activities } = await closingOf(world.database, id);
    await closeProject(
      world.database,
      manager,
      id,
      "The house goes to the town, which finishes the roof itself",
      Object.fromEntries(activities.map((left) => [left.id, "dropped"] as const)),
    );
  }
}

async function liveThrough(
  world: World,
  projects: readonly LiveProject[],
  period: number,
  fromDate: string,
  dataDate: string,
): Promise<void> {
  for (const project of projects) {
    const begun = project.demo.start <= dataDate && project.demo.story !== "unapproved";
    if (!begun) continue;
    if (project.demo.story === "rebaselined" && period === REBASELINED_IN) await rebaseline(world, project, fromDate);
    await fillBoxes(world, project, fromDate);
    await liveProject(world, project, period, fromDate, dataDate);
    if (period === OPEN_PERIOD) continue;
    for (const said of SAID[project.demo.code]?.[period] ?? [])
      await writeSaid(
        world.database,
        project.manager,
        { subjectId: project.id, number: period, aspect: said.aspect },
        { version: 0, rating: said.rating ?? null, reason: said.reason ?? "", text: said.text },
      );
    await issuePeriod(world.database, project.manager, project.id, makeReport(POST), at(dataDate, "18:00"));
    await lockPeriod(world.database, world.controller, project.id, "", makeReport(POST), at(dataDate, "18:30"));
  }
}

const dayString = (day: number): string => new Date(Date.UTC(1990, 0, 1 + day)).toISOString().slice(0, 10);

/** A period of one project: people report, their manager accepts and enters the invoices, the data date moves. */
async function liveProject(
  world: World,
  { demo, id, manager }: LiveProject,
  period: number,
  fromDate: string,
  dataDate: string,
): Promise<void> {
  const open = period === OPEN_PERIOD;
  const to = open ? REPORTED_TO : dataDate;
  const plan = await planOf(world.database, id);
  const lived = livePeriod({
    plan,
    story: demo.story,
    period,
    from: parseDate(fromDate > demo.start ? fromDate : demo.start)!,
    to: parseDate(to)!,
    random: world.random,
    booked: world.booked,
  });
  const accepted = open
    ? lived.reports.filter(({ date, personId }) => date <= ACCEPTED_TO && !SILENT.has(personId))
    : lived.reports;
  const waiting = open
    ? lived.reports.filter(
        (report) =>
          report.date > ACCEPTED_TO &&
          report.personId !== "" &&
          !SILENT.has(report.personId) &&
          world.random.next() < 0.35,
      )
    : [];
  const move: Change[] = open && BEHIND.has(demo.code) ? [] : [{ type: "setDataDate", date: dataDate }];
  await change(world, id, manager, move, `Data date moved to ${dateWords(dataDate)}`, at(to, "17:00"));
  await accept(world, id, manager, accepted, open, at(to, "17:20"));
  await change(
    world,
    id,
    manager,
    open ? lived.costs.filter((cost) => cost.type === "postCost" && cost.cost.date <= ACCEPTED_TO) : lived.costs,
    "Invoices of the period",
    at(to, "17:40"),
  );
  if (open)
    await change(world, id, manager, whatIsBlocked(demo, await planOf(world.database, id)), "Blocked", at(to, "17:50"));
  if (waiting.length > 0)
    await insertReports(
      world.database.manager,
      id,
      waiting.map((report) => ({ ...report, id: randomUUID() })),
      "submitted",
      null,
      at(to, "16:00"),
    );
}

/** People who live by another clock than the authority's. */
const ELSEWHERE: Readonly<Record<string, string>> = {
  "Dov Castellane": "America/Halifax",
  "Priya Nordahl": "Pacific/Auckland",
};

/** What moved before the last period, people were told long ago. */
async function toldSoFar(database: DataSource): Promise<void> {
  while ((await tellDifferences(database, UNTOLD)) > 0);
}

/** Some mail, people west and east of the authority, and reports that came in another order than the work was done. */
async function tellInDemo(world: World, projects: readonly LiveProject[]): Promise<void> {
  const { database } = world;
  const accounts = database.getRepository(AccountEntity);
  for (const [name, timeZone] of Object.entries(ELSEWHERE)) await accounts.update({ name }, { timeZone });
  const [ines, tomas] = await Promise.all(["ines", "tomas"].map((login) => accounts.findOneByOrFail({ login })));
  const silent = await accounts.findBy({ personId: In([...SILENT].slice(0, 3)) });
  await POST.put(
    database.manager,
    silent.map((to) => ({
      to,
      kind: "asked" as const,
      act: "Report",
      subject: `Your time of period ${OPEN_PERIOD}`,
      body: "Please send your time up to the 27th; the period is to be issued on the first.",
      link: "/desk",
      from: ines!,
    })),
    at("2026-11-24", "08:30"),
  );
  await POST.put(
    database.manager,
    [
      {
        to: tomas!,
        kind: "asked",
        act: "Explain",
        subject: "North lock gates: figures before Tuesday",
        body: "SPI is below the limit again; please explain it in the cycle before the period is issued.",
        link: "/cycle?step=Explain",
        from: ines!,
      },
    ],
    at("2026-11-24", "09:10"),
  );
  for (const project of projects) if (await lateInDemo(world, project)) break;
}

/** On work of several people: one of them says 100% while another has hours left, and sends an older day after it. */
async function lateInDemo({ database }: World, { id }: LiveProject): Promise<boolean> {
  const plan = await planOf(database, id);
  const shared = [...plan.activities.values()].find(
    ({ id: activity, actualStart, actualFinish, kind }) =>
      kind === undefined &&
      actualStart !== undefined &&
      actualFinish === undefined &&
      [...plan.assignments.values()].filter(
        (row) => row.activity === activity && (row.remainingMinutes ?? row.plannedMinutes) > 0,
      ).length > 1,
  );
  const waiting = new Set(
    (await database.getRepository(ReportEntity).findBy({ projectId: id, state: "submitted" })).map(
      ({ personId }) => personId,
    ),
  );
  // Somebody of whom nothing else waits.
  const first = [...plan.assignments.values()].find(
    ({ activity, person }) => activity === shared?.id && !waiting.has(person),
  );
  if (shared === undefined || first === undefined) return false;
  const report = (date: string, more: Partial<ReportContent>): ReportContent => ({
    id: randomUUID(),
    activityId: shared.id,
    personId: first.person,
    date,
    minutes: null,
    remainingMinutes: null,
    percent: null,
    note: "",
    leaveUntil: null,
    ...more,
  });
  await insertReports(
    database.manager,
    id,
    [report("2026-11-19", { minutes: 240, percent: 100, remainingMinutes: 0 })],
    "submitted",
    null,
    at("2026-11-19", "16:30"),
  );
  await insertReports(
    database.manager,
    id,
    [report("2026-11-12", { minutes: 300, percent: 50, note: "found in the notebook" })],
    "submitted",
    null,
    at("2026-11-20", "09:00"),
  );
  return true;
}

/** What stands in the way in the open period, by project. */
const BLOCKED_BY: Readonly<Record<string, string>> = {
  "SW-01": "the crane barge, away at the outer breakwater",
  "LG-02": "drawings of the sill, not released",
  "FS-03": "two moorings whose owners have not answered",
};

function whatIsBlocked({ code }: DemoProject, plan: Plan): Change[] {
  const by = BLOCKED_BY[code];
  const activity = [...plan.activities.values()].find(
    ({ kind, actualStart, actualFinish }) =>
      kind === undefined && actualStart !== undefined && actualFinish === undefined,
  );
  return by === undefined || activity === undefined
    ? []
    : [
        {
          type: "addRow",
          table: "blocks",
          key: activity.id,
          row: {
            by,
            since: "2026-11-16",
            saidBy:
              plan.people.get([...plan.assignments.values()].find((row) => row.activity === activity.id)?.person ?? "")
                ?.name ?? "the yard",
          },
        },
      ];
}

async function accept(
  world: World,
  id: string,
  me: Me,
  reports: readonly ReportContent[],
  keep: boolean,
  when: Date,
): Promise<void> {
  if (reports.length === 0) return;
  await writeProject(world.database, me, id, async (writing, project) => {
    const { changes } = acceptReports(await writing.plan(project), reports, {
      endings: new Map(reports.map((report) => [report.id, "all"])),
    });
    await storeChanges(writing, project, {
      changes,
      label: `Accepted ${reports.length} reports`,
      through: "reports",
      at: when,
    });
    if (keep)
      await insertReports(
        writing.manager,
        id,
        reports.filter(({ personId }) => personId !== ""),
        "posted",
        me.id,
        when,
      );
  });
}

async function insertReports(
  manager: EntityManager,
  projectId: string,
  reports: readonly ReportContent[],
  state: "posted" | "submitted",
  decidedBy: string | null,
  sentAt: Date,
): Promise<void> {
  const rows = reports.map(({ id, ...content }) => ({
    ...content,
    id: state === "submitted" ? id : randomUUID(),
    projectId,
    state,
    sentAt,
    decidedBy,
    word: null,
  }));
  for (let i = 0; i < rows.length; i += 500) await manager.getRepository(ReportEntity).insert(rows.slice(i, i + 500));
}

/** What is left is put where it now stands, each with its reason, and a second baseline is approved. */
async function rebaseline(world: World, { id, manager }: LiveProject, day: string): Promise<void> {
  const plan = await planOf(world.database, id);
  const { rows } = schedulePlan(toBundle(plan));
  const reason = "Moorings taken by the April storm";
  const changes = [...plan.activities.values()].flatMap((activity, i): Change[] => {
    const row = rows[i];
    if (row == null || row.state === "complete") return [];
    if (activity.deadline !== undefined)
      return [
        { type: "setDeadline", activity: activity.id, date: formatDate(addDays(row.finishDay, NEW_PROMISE_DAYS)) },
      ];
    if (activity.durationMinutes === undefined) return [];
    const minutes = Math.ceil((activity.durationMinutes * 1.15) / 480) * 480;
    return [
      { type: "setDuration", activity: activity.id, minutes },
      {
        type: "setWish",
        activity: activity.id,
        wish: { type: "startNotBefore", date: formatDate(row.startDay), reason },
      },
    ];
  });
  await change(world, id, manager, changes, "Dates and durations as learnt since the storm", at(day, "10:00"));
  await approve(
    world,
    id,
    manager,
    "The April storm took the moorings; durations as learnt since.",
    "Storm accepted as the cause; new dates agreed with the ferry company.",
    day,
  );
}
