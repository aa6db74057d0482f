import { currencyDigits } from "@chronometra/core";
import type { ImportAnswers, ImportProblem } from "@chronometra/contract";
import { MADE_FROM, NUMBERS_SAY } from "../sheets/columns.ts";
import { without, type Loose, type ReadRow, type ReadTables } from "../match/readTables.ts";
import type { KnownRows } from "./sense.ts";

const PROGRESS = ["percent", "actualStart", "actualFinish", "state"];
const hasBegun = ({ fields }: ReadRow): boolean =>
  PROGRESS.some((column) => ![undefined, 0, "notStarted", "parked"].includes(fields[column] as string | undefined));

/** The head of the project: as the file says, as was answered, else with what can be told from the rest of the file. */
export function projectOf(
  tables: ReadTables,
  answers: ImportAnswers,
  known: KnownRows,
  fileName: string,
  calendars: readonly Loose[],
  notices: ImportProblem[],
): Loose {
  const { calendar: chosen, ...answered } = answers.project ?? {};
  const said = Object.fromEntries(Object.entries(answered).filter(([, value]) => value !== undefined && value !== ""));
  const bare = fileName.replace(/\.[^.]*$/, "");
  const code =
    bare
      .replace(/[^\p{L}\p{N}]+/gu, "-")
      .slice(0, 20)
      .toUpperCase() || "PLAN";
  const calendar = calendars.some(({ id }) => id === chosen) ? chosen : calendars[0]!["id"];
  const fields = without(tables.get("project")?.[0]?.fields ?? {}, [NUMBERS_SAY, MADE_FROM]);
  const head: Loose = { code, name: bare, currency: "EUR", calendar, ...fields, ...said };
  if (chosen !== undefined) head["calendar"] = calendar;
  if (fields["minorDigits"] === undefined && (currencyDigits(String(head["currency"])) ?? 2) !== 2)
    head["minorDigits"] = currencyDigits(String(head["currency"])) ?? 2;
  if (answers.changesTo === undefined) supplyDates(head, tables, known, notices);
  return head;
}

/** When a project begins and how far it is looked at, where the file says neither. */
function supplyDates(head: Loose, tables: ReadTables, known: KnownRows, notices: ImportProblem[]): void {
  const activities = tables.get("activities") ?? [];
  if (activities.length === 0) return;
  const supply = (field: string, message: string): void =>
    void notices.push({ table: "project", row: "", field, place: "", level: "notice", message });
  if (head["start"] === undefined) {
    const starts = activities.flatMap((row) =>
      [row.fields["start"], row.fields["actualStart"]].filter((date) => typeof date === "string"),
    );
    head["start"] = starts.length === 0 ? known.today : starts.sort()[0]!.slice(0, 10);
    supply(
      "start",
      starts.length === 0
        ? "The file has no dates; the project starts today."
        : "The project starts with the earliest date of the file.",
    );
  }
  const isRunning = activities.some(hasBegun) || (tables.get("timeEntries") ?? []).length > 0;
  if (head["dataDate"] === undefined && isRunning) {
    head["dataDate"] = known.today;
    supply("dataDate", "Some of it has begun, and the file has no data date; today was taken.");
  }
}
