import { CALENDAR_KINDS, type CalendarEntry, type CalendarView, type Me } from "@chronometra/contract";
import {
  countWords,
  DEADLINE_TONES,
  dateWords,
  daysWords,
  driftWords,
  formatDate,
  parseDate,
  addDays,
  standingWords,
  type Meeting,
} from "@chronometra/core";
import type { DataSource } from "typeorm";
import { roadProjects, type RoadProject } from "../portfolio/roadmap.ts";
import { mayEdit, maySee } from "../project/reach.ts";
import {
  absencesIn,
  meetingsIn,
  projectsOfPerson,
  timeboxesIn,
  type Absence,
  type ProjectBox,
  type ProjectMeeting,
} from "./daysOfPeople.ts";

/** Which days are asked for, and what of them. */
export interface AskedDays {
  readonly from: string;
  readonly to: string;
  /** One's own work, projects, meetings and absences alone. */
  readonly own: boolean;
  readonly project: string | null;
}

/** So many entries are told at once. */
const MOST = 4000;

/** What someone sees of a project on the calendar. */
interface Seen {
  readonly of: RoadProject;
  /** Whether all of it is shown, or their own work in it alone. */
  readonly isWhole: boolean;
  readonly isOwn: (activity: string) => boolean;
  readonly mayMove: boolean;
  /** Where an activity of it is told in full. */
  readonly pageOf: (activity: string) => string;
}

type Entry = Omit<CalendarEntry, "project" | "to"> & { readonly to?: string };

const marked = ({ of: { id, code, name } }: Seen, entry: Entry): CalendarEntry => ({
  to: entry.from,
  ...entry,
  project: { id, code, name },
});

/** The milestones, deadlines and gates of a project. */
function marksOf(seen: Seen): CalendarEntry[] {
  const { of, isWhole, isOwn, mayMove, pageOf } = seen;
  const shown = <T extends { readonly id: string }>(all: readonly T[]): T[] =>
    all.filter(({ id }) => isWhole || isOwn(id));
  const milestones = shown(of.milestones)
    .filter(({ dropped }) => dropped !== true)
    .map(({ id, name, forecast, baseline, drift, reached }) =>
      marked(seen, {
        ...{ id: `milestone ${of.id} ${id}`, kind: "milestone", from: forecast, name, done: reached, activity: id },
        words:
          (reached ? "reached" : "forecast") +
          (baseline === null ? "" : `, approved for ${dateWords(baseline)}, ${driftWords(drift)}`),
        tone: !reached && (drift ?? 0) > 0 ? "adverse" : "plain",
        ...{ link: pageOf(id), mayMove: mayMove && !reached },
      }),
    );
  const deadlines = shown(of.deadlines).map(({ id, name, deadline, finish, marginDays, state }) =>
    marked(seen, {
      ...{ id: `deadline ${of.id} ${id}`, kind: "deadline", from: deadline, name, activity: id },
      words: `${standingWords(state, marginDays)}${marginDays === null ? "" : `, forecast ${dateWords(finish)}`}`,
      ...{ tone: DEADLINE_TONES[state], done: state === "metOnTime" || state === "metLate" },
      ...{ link: pageOf(id), mayMove: false },
    }),
  );
  const gates = (isWhole ? of.gates : []).map(({ stage, name, date, approved, passed }) =>
    marked(seen, {
      ...{ id: `gate ${of.id} ${stage}`, kind: "gate", from: date, name, done: passed, activity: null },
      words: passed
        ? "passed"
        : `due${approved === null || approved === date ? "" : `, approved for ${dateWords(approved)}`}`,
      ...{ tone: "plain", link: `/projects/${of.id}/stages`, mayMove: false },
    }),
  );
  return [...milestones, ...deadlines, ...gates];
}

/** The days on which a meeting is held between two days. */
export function heldOn(
  { date, weeklyUntil }: Pick<Meeting, "date" | "weeklyUntil">,
  from: string,
  to: string,
): string[] {
  const last = weeklyUntil === undefined ? date : weeklyUntil < to ? weeklyUntil : to;
  const days: string[] = [];
  let day = parseDate(date)!;
  const begin = parseDate(from)!;
  // Weeks before the first day that is asked for are passed over at once.
  if (day < begin) day = addDays(day, Math.ceil((begin - day) / 7) * 7);
  for (; formatDate(day) <= last && formatDate(day) <= to; day = addDays(day, 7)) {
    days.push(formatDate(day));
    if (weeklyUntil === undefined) break;
  }
  return days;
}

const hoursWords = (minutes: number): string =>
  [minutes >= 60 ? `${Math.floor(minutes / 60)} h` : "", minutes % 60 === 0 ? "" : `${minutes % 60} min`]
    .filter((part) => part !== "")
    .join(" ");

/** What someone sees of the projects that they look into or work in. */
async function seenProjects(database: DataSource, me: Me, { own, project }: AskedDays): Promise<Seen[]> {
  const work = await projectsOfPerson(database, me);
  const { projects } = await roadProjects(
    database,
    me,
    (each) => (project === null || each.id === project) && (maySee(me, each) || work.has(each.id)),
  );
  return projects.map((of): Seen => {
    const looksIn = maySee(me, of);
    return {
      ...{ of, isWhole: looksIn && (!own || of.managerId === me.id), mayMove: mayEdit(me, of) },
      isOwn: (activity) => work.get(of.id)?.has(activity) === true,
      pageOf: (activity) =>
        looksIn ? `/projects/${of.id}/plan?at=${encodeURIComponent(activity)}` : `/desk/plans/${of.id}`,
    };
  });
}

/** A meeting on each of its days. */
const meetingDays = (seen: Seen, meeting: ProjectMeeting, { from, to }: AskedDays): CalendarEntry[] =>
  heldOn(meeting, from, to).map((day) =>
    marked(seen, {
      ...{ id: `meeting ${meeting.project} ${meeting.id} ${day}`, kind: "meeting", from: day, name: meeting.name },
      words: `${hoursWords(meeting.minutes)}, ${countWords(meeting.people.length, "person", "people")}`,
      ...{ tone: "plain", done: false, activity: null, mayMove: false, link: seen.pageOf(meeting.activity) },
    }),
  );

const boxDays = (seen: Seen, { project, id, name, first, last, works }: ProjectBox): CalendarEntry => ({
  ...marked(seen, {
    ...{ id: `timebox ${project} ${id}`, kind: "timebox", from: first, name },
    words: `${daysWords(first, last)}, ${countWords(works.length, "activity", "activities")}`,
    ...{ tone: "plain", done: false, activity: null, mayMove: false },
    link: seen.isWhole ? `/projects/${project}/timeboxes/${encodeURIComponent(id)}` : null,
  }),
  to: last,
});

/** Who is away is away from every project in which they work, and stands there once. */
const absent = (absences: readonly Absence[]): CalendarEntry[] => [
  ...new Map(
    absences.map(({ person, name, from, to }): [string, CalendarEntry] => {
      const id = `leave ${person} ${from} ${to}`;
      const plain = { tone: "plain", done: false, project: null, activity: null, link: null, mayMove: false } as const;
      return [id, { id, kind: "leave", from, to, name, words: "away", ...plain }];
    }),
  ).values(),
];

/** What falls on which of some days, as far as someone sees it. */
export async function calendarOf(database: DataSource, me: Me, asked: AskedDays): Promise<CalendarView> {
  const { from, to, own } = asked;
  const seen = await seenProjects(database, me, asked);
  const byId = new Map(seen.map((each) => [each.of.id, each]));
  const [boxes, meetings, absences] = await Promise.all([
    timeboxesIn(database, [...byId.keys()], asked),
    meetingsIn(database, [...byId.keys()], asked),
    absencesIn(database, [...byId.keys()], asked),
  ]);
  const isMine = (people: readonly string[]): boolean => me.person !== null && people.includes(me.person);
  const isSeen = (of: string, people: readonly string[]): boolean => byId.get(of)!.isWhole || isMine(people);
  const entries = [
    ...seen.flatMap(marksOf),
    ...boxes
      .filter(({ project, works }) => byId.get(project)!.isWhole || works.some(byId.get(project)!.isOwn))
      .map((box) => boxDays(byId.get(box.project)!, box)),
    ...meetings
      .filter(({ project, people }) => isSeen(project, people))
      .flatMap((meeting) => meetingDays(byId.get(meeting.project)!, meeting, asked)),
    ...absent(absences.filter(({ project, person }) => (own ? isMine([person]) : isSeen(project, [person])))),
  ]
    .filter((entry) => entry.from <= to && entry.to >= from)
    .sort(
      (a, b) =>
        a.from.localeCompare(b.from) ||
        CALENDAR_KINDS.indexOf(a.kind) - CALENDAR_KINDS.indexOf(b.kind) ||
        a.name.localeCompare(b.name, "en") ||
        (a.project?.code ?? "").localeCompare(b.project?.code ?? "", "en"),
    );
  return { from, to, entries: entries.slice(0, MOST), total: entries.length };
}
