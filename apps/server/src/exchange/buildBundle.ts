import type { ImportAnswers, ImportProblem, ImportView } from "@chronometra/contract";
import type { Calendar } from "@chronometra/core";
import { projectOf } from "./ordinary/project.ts";
import { makeActivities, type Made } from "./ordinary/activities.ts";
import { entriesOf, type WorkedOn } from "./ordinary/hours.ts";
import type { Beside } from "../begin/createProject.ts";
import type { KnownRows } from "./ordinary/sense.ts";
import type { SheetName } from "./sheets/columns.ts";
import type { MatchedSheet } from "./match/matchSheets.ts";
import { without, type Loose, type ReadRow, type ReadTables } from "./match/readTables.ts";

const pick = (fields: Loose, names: readonly string[]): Loose =>
  Object.fromEntries(names.flatMap((name) => (fields[name] === undefined ? [] : [[name, fields[name]]])));

const DAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];

const calendarOf = (fields: Loose, exceptions: readonly ReadRow[]): Loose => {
  const week = pick(fields, DAYS);
  const hasWeek = Object.keys(week).length > 0 || fields["hasWeek"] === true;
  return {
    ...pick(fields, ["id", "name", "base", "dayMinutes"]),
    ...(hasWeek ? { week } : {}),
    ...(exceptions.length === 0
      ? {}
      : {
          exceptions: exceptions.map((row) => ({ shifts: [], ...pick(row.fields, ["from", "to", "shifts", "label"]) })),
        }),
  };
};

const STANDARD_WEEK = Object.fromEntries(
  DAYS.slice(0, 5).map((day) => [
    day,
    [
      ["08:00", "12:00"],
      ["13:00", "17:00"],
    ],
  ]),
);

/** What tables come to: a bundle that is not checked yet, and what was asked, supplied or cannot be on the way there. */
export interface Built extends Pick<Made, "given" | "rowById" | "rowKeysQuestion" | "problems" | "notices"> {
  readonly bundle: Loose;
  readonly beside: Beside;
  readonly peopleQuestion: ImportView["peopleQuestion"];
}

/** Tables put together as a bundle; not checked yet. `notices` says what was supplied where the file was silent. */
export function buildBundle(
  tables: ReadTables,
  sheets: readonly MatchedSheet[],
  answers: ImportAnswers,
  known: KnownRows,
  fileName: string,
): Built {
  const notices: ImportProblem[] = [];
  const rowsOf = (sheet: SheetName): readonly ReadRow[] => tables.get(sheet) ?? [];
  const calendars = calendarsOf(rowsOf("calendars"), rowsOf("calendarExceptions"), answers, known, notices);
  const project = projectOf(tables, answers, known, fileName, calendars, notices);
  const made = makeActivities({
    rows: rowsOf("activities"),
    sheets,
    answers,
    known,
    calendars,
    project,
    people: peopleOf(rowsOf("people"), rowsOf("rates")),
    credit: (nested, id) => creditLists(nested, id, rowsOf("steps"), rowsOf("stages")),
    prefix: answers.changesTo === undefined ? "" : "added-",
    minorDigits: (project["minorDigits"] as number | undefined) ?? 2,
  });
  const { persons, own } = made;
  const worked = entriesOf(rowsOf("timeEntries"), sheets, made.activities as unknown as WorkedOn[], persons);
  const fieldsOf = (sheet: SheetName): Loose[] => rowsOf(sheet).map((row) => row.fields);
  return {
    bundle: {
      format: "chronometra-plan",
      version: 1,
      project,
      calendars,
      people: persons.people,
      activities: made.activities,
      links: [...fieldsOf("links"), ...made.links],
      assignments: [...fieldsOf("assignments"), ...made.assignments],
      costs: [...fieldsOf("costs"), ...made.costs],
      baselines: rowsOf("baselines").map((row) => baselineOf(row.fields, tables)),
      timeEntries: worked.entries,
      actualCosts: fieldsOf("actualCosts"),
    },
    beside: { ...own, placeholders: persons.placeholders },
    ...pickMade(made),
    peopleQuestion: persons.question(),
    problems: [...made.problems, ...worked.problems],
    notices: [...notices, ...made.notices],
  };
}

const pickMade = ({ given, rowById, rowKeysQuestion }: Made): Pick<Built, "given" | "rowById" | "rowKeysQuestion"> => ({
  given,
  rowById,
  rowKeysQuestion,
});

/** A calendar with those that it rests on, each before what rests on it. */
function withBases(id: string, calendars: readonly Calendar[]): Calendar[] {
  const found: Calendar[] = [];
  for (let at: string | undefined = id; at !== undefined;) {
    const calendar = calendars.find((each) => each.id === at);
    if (calendar === undefined || found.includes(calendar)) break;
    found.unshift(calendar);
    at = calendar.base;
  }
  return found;
}

/** Calendars of a file, with one that was chosen from the register; an ordinary week where there is none. */
function calendarsOf(
  rows: readonly ReadRow[],
  exceptions: readonly ReadRow[],
  answers: ImportAnswers,
  known: KnownRows,
  notices: ImportProblem[],
): Loose[] {
  const calendars = rows.map((row) =>
    calendarOf(
      row.fields,
      exceptions.filter((each) => each.fields["calendar"] === row.fields["id"]),
    ),
  );
  const chosen = answers.project?.calendar;
  const there = new Set(calendars.map(({ id }) => id));
  if (chosen !== undefined && !there.has(chosen))
    calendars.push(...(withBases(chosen, known.calendars) as Loose[]).filter(({ id }) => !there.has(id)));
  if (calendars.length > 0) return calendars;
  supplied(
    notices,
    "calendars",
    "",
    "The file brings no calendar; Monday to Friday, 08:00-12:00 and 13:00-17:00, was taken.",
  );
  return [{ id: "standard", name: "Standard week", week: STANDARD_WEEK }];
}

const supplied = (notices: ImportProblem[], table: ImportProblem["table"], field: string, message: string): void =>
  void notices.push({ table, row: "", field, place: "", level: "notice", message });

/** People with what their hours cost. */
const peopleOf = (people: readonly ReadRow[], rates: readonly ReadRow[]): Loose[] =>
  people.map(({ fields }) => {
    const own = rates.filter((rate) => rate.fields["person"] === fields["id"]);
    return own.length === 0
      ? fields
      : { ...fields, rates: own.map((rate) => pick(rate.fields, ["from", "perHourMinor"])) };
  });

function baselineOf(fields: Loose, tables: ReadTables): Loose {
  const own = (sheet: SheetName): ReadRow[] =>
    (tables.get(sheet) ?? []).filter((row) => row.fields["baseline"] === fields["number"]);
  const exceptions = own("baselineCalendarExceptions");
  const calendars = own("baselineCalendars").map((row) =>
    calendarOf(
      row.fields,
      exceptions.filter((e) => e.fields["calendar"] === row.fields["id"]),
    ),
  );
  return {
    ...fields,
    ...(calendars.length === 0 ? {} : { calendars }),
    activities: own("baselineActivities").map((row) => without(row.fields, ["baseline"])),
  };
}

function creditLists(nested: Loose, id: string, steps: readonly ReadRow[], stages: readonly ReadRow[]): Loose {
  const own = (rows: readonly ReadRow[], columns: readonly string[]): Loose[] =>
    rows.filter((row) => row.fields["activity"] === id).map((row) => pick(row.fields, columns));
  const ownSteps = own(steps, ["name", "weight", "doneOn"]);
  const ownStages = own(stages, ["name", "credit"]);
  if (ownSteps.length === 0 && ownStages.length === 0) return {};
  return {
    credit: {
      ...(nested["credit"] as Loose | undefined),
      ...(ownSteps.length > 0 ? { steps: ownSteps } : {}),
      ...(ownStages.length > 0 ? { stages: ownStages } : {}),
    },
  };
}
