import type { Me, WatchQuestion } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { ask } from "../apps/server/dist/watch/asked/ask.js";
import { READY_WATCHLISTS } from "../apps/server/dist/watch/ready.js";
import { leastOf, limitLine, type Line } from "./measure.ts";

const LIMIT_MILLISECONDS = 500;

const EVERYTHING: WatchQuestion = {
  about: "activities",
  where: [],
  columns: ["name", "people", "start", "finish", "drift", "planned", "bac"],
  sort: [{ field: "drift", desc: true }],
  group: "project",
  pivot: { rows: "project", columns: "state", sum: "bac" },
};

/**
 * Answers to questions over all activities: those that ship, and one that finds everything, grouped, sorted and
 * counted.
 */
export async function watchLines(database: DataSource, me: Me, activities: number): Promise<Line[]> {
  const asked: [string, WatchQuestion][] = [
    ...READY_WATCHLISTS.filter(({ question }) => question.about === "activities").map(
      ({ name, question }): [string, WatchQuestion] => [name, question],
    ),
    ["everything, grouped and counted", EVERYTHING],
  ];
  const lines: Line[] = [];
  for (const [name, question] of asked)
    lines.push(
      limitLine(
        `Watchlist "${name}", ${activities} activities`,
        await leastOf(5, () => ask(database, me, question)),
        LIMIT_MILLISECONDS,
      ),
    );
  return lines;
}
