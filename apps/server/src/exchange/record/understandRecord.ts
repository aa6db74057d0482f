import type { ImportAnswers, ImportProblem, ImportView, ProjectRecord } from "@chronometra/contract";
import { fromPlanFile, OWN_TABLES, type PlanFile, type Problem } from "@chronometra/core";
import { located } from "../check/problems.ts";
import { checkRecord } from "./checkRecord.ts";
import { meetHouse, type House } from "./meetHouse.ts";

/** What a file says of what its project keeps besides the plan. */
export interface UnderstoodRecord {
  /** Whether it comes along when the project is stored. */
  readonly comes: boolean;
  /** The account here of whoever manages the project where it comes from. */
  readonly manager: string | null;
  /** How much there is of what version 1 does not have. */
  readonly counts: ImportView["counts"];
  readonly problems: readonly Problem[];
  readonly notices: ImportProblem[];
}

/** What is counted where it is said what was understood. */
const COUNTED = [
  ...(["history", "matters", "issuedPeriods", "issuedReports", "whatIfs", "reserves", "reports"] as const),
  ...(["documents", "talk"] as const),
];

const countsOf = (file: PlanFile, record?: ProjectRecord): ImportView["counts"] => [
  ...OWN_TABLES.map((table) => ({ table, rows: file[table]?.length ?? 0 })),
  ...COUNTED.map((table) => ({ table, rows: record?.[table]?.length ?? 0 })),
];

const STAYS =
  "Activities, links, people, their work, costs and calendars are compared; all else that the file holds stays in it.";
const FOR_CONTROLLERS = [
  "The plan comes with all that it holds; history, registers, reports, approvals and what-ifs come",
  "where a controller of the whole house brings the file.",
].join(" ");

const notice = (message: string): ImportProblem => ({
  ...located({ table: "record", row: "", field: "", message }),
  level: "notice",
});

/** What the project kept besides its plan: it comes along with a new project, where its bringer may bring that. */
export function understandRecord(file: PlanFile, { changesTo }: ImportAnswers, house: House): UnderstoodRecord {
  const nothing = { comes: false, manager: null, counts: countsOf(file), problems: [], notices: [] };
  if (file.record === undefined) return nothing;
  if (changesTo !== undefined) return { ...nothing, notices: [notice(STAYS)] };
  if (!house.mayBring) return { ...nothing, notices: [notice(FOR_CONTROLLERS)] };
  const { record, problems } = checkRecord(file.record, fromPlanFile(file));
  if (record === undefined) return { ...nothing, problems };
  const { accounts, notices } = meetHouse(record, house);
  const manager = accounts.get(record.project.manager)!;
  return {
    comes: true,
    manager: house.accounts.some(({ id }) => id === manager) ? manager : null,
    counts: countsOf(file, record),
    problems: [],
    notices: notices.map(notice),
  };
}
