import type { CalendarEntry, CalendarView } from "@chronometra/contract";
import { addDays, eachWeekOfInterval, formatISO } from "date-fns";
import ICAL from "ical.js";
import { smallPlan, TestWorld, type Caller } from "../testing/testWorld.ts";
import { heldOn } from "./calendarDays.ts";

let world: TestWorld;
let tomas: Caller, radu: Caller, quill: Caller, ann: Caller, zed: Caller;
let project: string, other: string;

const days = async (who: Caller, query = "from=2026-03-01&to=2026-03-31"): Promise<CalendarEntry[]> =>
  ((await who.get(`/api/calendar?${query}`)).body as CalendarView).entries;
const told = (entries: readonly CalendarEntry[]): string[] =>
  entries.map(({ kind, from, name, project: of }) => `${from} ${kind} ${name}${of?.id === other ? " (other)" : ""}`);
const change = async (who: Caller, of: string, ...changes: object[]): Promise<void> => {
  const { revision } = (await who.get(`/api/projects/${of}/plan`)).body as { revision: number };
  const answer = await who.send("post", `/api/projects/${of}/changes`, { revision, changes });
  if (answer.status !== 200) throw new Error(answer.text);
};
const meeting = (people: string[]) => ({
  type: "addRow",
  table: "meetings",
  key: "m",
  row: {
    id: "m",
    name: "Toolbox talk",
    activity: "dig",
    date: "2026-03-18",
    weeklyUntil: "2026-12-30",
    minutes: 90,
    people,
  },
});
const away = [
  {
    type: "addRow",
    table: "calendars",
    key: "leave-bo",
    row: {
      id: "leave-bo",
      name: "Bo’s days",
      base: "std",
      exceptions: [{ from: "2026-03-26", to: "2026-04-07", shifts: [] }],
    },
  },
  { type: "editRow", table: "people", key: "bo", set: { calendar: "leave-bo" } },
];

beforeAll(async () => {
  world = await TestWorld.open();
  tomas = await world.caller("tomas", ["projectManager"]);
  radu = await world.caller("radu", ["projectManager"]);
  quill = await world.caller("quill", ["reader"]);
  ann = await world.caller("ann", ["contributor"], "ann");
  zed = await world.caller("zed", ["contributor"], "zed");
  project = await world.addProject(tomas.me, smallPlan());
  other = await world.addProject(radu.me, smallPlan());
  await change(tomas, project, meeting(["ann", "bo"]), ...away);
  await change(radu, other, ...away);
});
afterAll(() => world.drop());

describe("the calendar", () => {
  it("has milestones, deadlines, meetings on each of their days, and who is away once, whatever the projects", async () => {
    const entries = await days(quill);
    expect(told(entries).sort()).toEqual([
      "2026-03-11 milestone Open",
      "2026-03-11 milestone Open (other)",
      "2026-03-13 deadline Open",
      "2026-03-13 deadline Open (other)",
      "2026-03-18 meeting Toolbox talk",
      "2026-03-25 meeting Toolbox talk",
      "2026-03-26 leave Bo",
    ]);
    const one = (kind: string): CalendarEntry =>
      entries.find((each) => each.kind === kind && each.project?.id !== other)!;
    expect(one("milestone")).toMatchObject({
      words: "forecast",
      mayMove: false,
      link: `/projects/${project}/plan?at=open`,
    });
    expect(one("deadline").words).toMatch(/^(tight|safe), 2 d in hand, forecast 11 Mar 2026$/);
    expect(one("meeting").words).toBe("1 h 30 min, 2 people");
    expect(one("leave")).toMatchObject({ to: "2026-04-07", project: null, link: null });
    expect(told(await days(quill, `from=2026-03-01&to=2026-03-31&project=${other}`))).toEqual([
      "2026-03-11 milestone Open (other)",
      "2026-03-13 deadline Open (other)",
      "2026-03-26 leave Bo",
    ]);
    // What began before the first day and lasts is there.
    expect(told(await days(quill, "from=2026-04-06&to=2026-04-06"))).toEqual(["2026-03-26 leave Bo"]);
  });

  it("has timeboxes over their days, for those who work in them those alone that hold their own", async () => {
    const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
    const box = (id: string, first: string, last: string) => ({
      ...{ type: "addRow", table: "timeboxes", key: id, row: { id, name: `Box ${id}`, first, last } },
    });
    const boxed = { type: "addRow", table: "boxed", key: "pour", row: { box: "2", rank: 1 } };
    const changes = [box("1", "2026-02-20", "2026-03-02"), box("2", "2026-03-03", "2026-03-20"), boxed];
    expect((await tomas.send("post", `/api/projects/${project}/changes`, { revision, changes })).status).toBe(200);
    const boxes = async (who: Caller, extra = "") =>
      (await days(who, `from=2026-03-02&to=2026-03-04${extra}`)).filter(({ kind }) => kind === "timebox");
    expect((await boxes(quill)).map(({ name, from, to, words }) => [name, from, to, words])).toEqual([
      ["Box 1", "2026-02-20", "2026-03-02", "20 Feb 2026 to 2 Mar 2026, 0 activities"],
      ["Box 2", "2026-03-03", "2026-03-20", "3 Mar 2026 to 20 Mar 2026, 1 activity"],
    ]);
    expect((await boxes(quill))[1]!.link).toBe(`/projects/${project}/timeboxes/2`);
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: revision + 1 });
  });

  it("is fetched by calendar programs as each sees it, whole or their own, of a year to come", async () => {
    const soon = formatISO(addDays(new Date(), 10), { representation: "date" });
    const later = formatISO(addDays(new Date(), 500), { representation: "date" });
    const { revision } = (await tomas.get(`/api/projects/${project}/plan`)).body as { revision: number };
    await change(
      tomas,
      project,
      { type: "setDeadline", activity: "open", date: soon },
      { type: "setDeadline", activity: "pour", date: later },
    );
    const deadlines = async (who: Caller, subject: string): Promise<string[]> => {
      const { path } = (await who.send("post", "/api/calendars", { subject })).body as { path: string };
      return new ICAL.Component(ICAL.parse((await who.get(path)).text) as never)
        .getAllSubcomponents("vevent")
        .map((event) => new ICAL.Event(event))
        .filter(({ summary }) => summary.startsWith("Deadline: "))
        .map(({ summary, startDate }) => `${startDate.toString()} ${summary}`);
    };
    expect(await deadlines(quill, "calendar")).toEqual([`${soon} Deadline: Open`]);
    expect(await deadlines(tomas, "own-calendar")).toEqual([`${soon} Deadline: Open`]);
    expect(await deadlines(radu, "own-calendar")).toEqual([]);
    // Whoever works in it sees what is their own, and no more.
    expect(await deadlines(ann, "calendar")).toEqual([]);
    await tomas.send("post", `/api/projects/${project}/undo`, { revision: revision + 1 });
  });

  it("lets whoever plans a project move its milestones, and shows each their own on request", async () => {
    const movable = (entries: readonly CalendarEntry[]) => told(entries.filter(({ mayMove }) => mayMove));
    expect(movable(await days(tomas))).toEqual(["2026-03-11 milestone Open"]);
    expect(movable(await days(radu))).toEqual(["2026-03-11 milestone Open (other)"]);
    expect(told(await days(tomas, "from=2026-03-01&to=2026-03-14&own=1"))).toEqual([
      "2026-03-11 milestone Open",
      "2026-03-13 deadline Open",
    ]);
    expect(await days(quill, "from=2026-03-01&to=2026-03-31&own=1")).toEqual([]);
  });

  it("shows whoever works in a project their own work and meetings, and nobody else’s absence", async () => {
    expect(told(await days(ann))).toEqual(["2026-03-18 meeting Toolbox talk", "2026-03-25 meeting Toolbox talk"]);
    expect((await days(ann))[0]!.link).toBe(`/desk/plans/${project}`);
    await change(tomas, project, { type: "setDeadline", activity: "dig", date: "2026-03-05" });
    expect(told(await days(ann))[0]).toBe("2026-03-05 deadline Dig");
    expect(await days(zed)).toEqual([]);
  });

  it("leaves closed projects out, and refuses days that are none or too many", async () => {
    await world.database.query(
      "insert into project_closing (project_id, closed_by, closed_at, word) values (?, ?, now(3), 'over')",
      [other, radu.me.id],
    );
    expect(told(await days(quill)).filter((line) => line.endsWith("(other)"))).toEqual([]);
    for (const query of [
      "",
      "from=2026-03-01",
      "from=x&to=y",
      "from=2026-03-02&to=2026-03-01",
      "from=2026-01-01&to=2026-12-31",
    ])
      expect((await quill.get(`/api/calendar?${query}`)).status).toBe(422);
  });
});

describe("the days of a weekly meeting", () => {
  // Against date-fns, a general-purpose library for dates.
  it.each([
    ["2026-01-07", "2026-12-30", "2026-03-01", "2026-03-31"],
    ["2026-03-18", "2026-03-25", "2026-03-01", "2026-04-30"],
    ["2025-11-24", "2027-01-01", "2026-12-21", "2027-02-28"],
    ["2026-03-31", "2026-05-01", "2026-03-01", "2026-03-31"],
  ])("from %s until %s, between %s and %s", (date, weeklyUntil, from, to) => {
    const weekday = new Date(`${date}T12:00`).getDay() as 0;
    const last = weeklyUntil < to ? weeklyUntil : to;
    const weeks = eachWeekOfInterval(
      { start: new Date(`${date}T12:00`), end: new Date(`${last}T12:00`) },
      { weekStartsOn: weekday },
    ).map((day) => formatISO(day, { representation: "date" }));
    expect(heldOn({ date, weeklyUntil }, from, to)).toEqual(weeks.filter((day) => day >= from && day <= last));
  });

  it("is one day of a meeting that is held once", () => {
    expect(heldOn({ date: "2026-03-18" }, "2026-03-01", "2026-03-31")).toEqual(["2026-03-18"]);
    expect(heldOn({ date: "2026-03-18" }, "2026-03-19", "2026-03-31")).toEqual([]);
  });
});
