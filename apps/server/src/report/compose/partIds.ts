import type { ReportPart } from "@chronometra/contract";

/** What a part of a project's report is called within the report of a group. */
export const partWithin = (code: string, id: string): string => `${code}-${id}`;

/** The code of the project that a part of a group's report is of; `null` of those that are of the group itself. */
export function projectOf({ id }: Pick<ReportPart, "id">): string | null {
  const end = id.lastIndexOf("-");
  return end < 0 ? null : id.slice(0, end);
}
