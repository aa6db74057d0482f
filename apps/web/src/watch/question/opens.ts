import type { WatchCondition, WatchQuestion } from "@chronometra/contract";
import { questionText } from "./questionWords.ts";

const address = (question: WatchQuestion): string => `/watch?q=${questionText(question)}`;
/** That a field is one of some things. */
export const anyOf = (field: string, of: readonly string[]): WatchCondition => ({ field, is: "any", of: [...of] });

/** Where the activities are that lie behind a figure: of a project, all of which hold. */
export const activitiesBehind = (project: string, ...conditions: readonly WatchCondition[]): string =>
  address({
    about: "activities",
    where: [[anyOf("project", [project]), anyOf("kind", ["work", "milestone", "levelOfEffort"]), ...conditions]],
    columns: ["name", "people", "start", "finish", "drift", "percent"],
    sort: [{ field: "finish", desc: false }],
    group: null,
    pivot: null,
  });

/** Where the posted time is that lies behind a figure: of projects, in a span of days, both included. */
export const timeBehind = (
  projects: readonly string[],
  from: string,
  to: string,
  ...conditions: readonly WatchCondition[]
): string =>
  address({
    about: "time",
    where: [[anyOf("project", projects), { field: "date", is: "within", from, to }, ...conditions]],
    columns: ["date", "person", "name", "project", "hours", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: null,
    pivot: null,
  });

/** Where the actual costs are that lie behind a figure. */
export const costsBehind = (
  project: string,
  from: string,
  to: string,
  ...conditions: readonly WatchCondition[]
): string =>
  address({
    about: "costs",
    where: [[anyOf("project", [project]), { field: "date", is: "within", from, to }, ...conditions]],
    columns: ["date", "name", "category", "amount", "note"],
    sort: [{ field: "date", desc: true }],
    group: null,
    pivot: null,
  });
