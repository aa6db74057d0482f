import type { MatchedSheet } from "../match/matchSheets.ts";
import { cellProblem, type Loose, type ReadRow } from "../match/readTables.ts";
import type { ImportProblem } from "@chronometra/contract";
import type { Persons } from "./people.ts";

/** Activities of the plan that hours may be on. */
export interface WorkedOn {
  readonly id: string;
  readonly name: string;
}

const plain = (text: string): string => text.trim().toLowerCase();

/**
 * Hours that people worked, as entries: whoever worked and what on by id or by name, hours as minutes, posted where
 * nothing else is said.
 */
export function entriesOf(
  rows: readonly ReadRow[],
  sheets: readonly MatchedSheet[],
  activities: readonly WorkedOn[],
  persons: Persons,
): { entries: Loose[]; problems: ImportProblem[] } {
  const ids = new Set(activities.map(({ id }) => id));
  const byName = new Map<string, string[]>();
  for (const { id, name } of activities) byName.set(plain(name), [...(byName.get(plain(name)) ?? []), id]);
  const problems: ImportProblem[] = [];
  const entries = rows.flatMap((row): Loose[] => {
    const { hours, ...fields } = row.fields;
    const sheet = sheets.find(({ source, table }) => source.name === row.sheet && table === "timeEntries")!;
    const say = (column: string, message: string): void => {
      const at = sheet.columns.indexOf(column);
      problems.push(
        cellProblem(sheet, Math.max(0, at), row.line, {
          table: "timeEntries",
          row: `#${row.line}`,
          field: column,
          message,
        }),
      );
    };
    const activity = activityOf(String(fields["activity"] ?? ""), ids, byName);
    if ("fault" in activity) say("activity", activity.fault);
    const who = fields["person"] as string | undefined;
    const person =
      who === undefined ? undefined : persons.hasId(who) ? who : persons.find(who, cellPlace(sheet, row, "person"));
    if (who === undefined) say("person", "says nobody; write who worked");
    const minutes =
      (fields["minutes"] as number | undefined) ??
      (hours === undefined ? undefined : Math.round((hours as number) * 60));
    // Whoever is asked about is told of; of nobody there are no hours.
    if (!("id" in activity) || typeof person !== "string") return [];
    return [
      {
        state: "posted",
        ...fields,
        activity: activity.id,
        person,
        ...(minutes === undefined ? {} : { minutes }),
      },
    ];
  });
  return { entries, problems };
}

function cellPlace(sheet: MatchedSheet, row: ReadRow, column: string): string {
  const at = sheet.columns.indexOf(column);
  return at < 0
    ? row.sheet
    : cellProblem(sheet, at, row.line, { table: "timeEntries", row: "", field: column, message: "" }).place;
}

function activityOf(
  text: string,
  ids: ReadonlySet<string>,
  byName: ReadonlyMap<string, readonly string[]>,
): { readonly id: string } | { readonly fault: string } {
  if (ids.has(text)) return { id: text };
  const named = byName.get(plain(text)) ?? [];
  if (named.length === 1) return { id: named[0]! };
  return {
    fault:
      text === ""
        ? "says no activity; write what was worked on"
        : named.length === 0
          ? `there is no activity “${text}” in this file`
          : `“${text}” is what ${named.length} activities are called; write its number`,
  };
}
