import type { Me } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { find } from "../apps/server/dist/find/find.js";
import { leastOf, limitLine, type Line } from "./measure.ts";

const LIMIT_MILLISECONDS = 100;

/**
 * Texts of each kind: a word in every twelfth name, two and three such, a beginning, a rare one, a misspelt one, a code
 * and a word.
 */
const TEXTS = ["hinge", "hinge survey", "paint hinge upper", "h", "milestone 449", "hnige survy", "B-217 paint"];

/** What is found by words among all projects. */
export async function findLines(database: DataSource, me: Me, activities: number): Promise<Line[]> {
  const lines: Line[] = [];
  for (const text of TEXTS)
    lines.push(
      limitLine(
        `Find "${text}", ${activities} activities`,
        await leastOf(5, () => find(database, me, text)),
        LIMIT_MILLISECONDS,
      ),
    );
  return lines;
}

const VERBS = ["Survey", "Paint", "Lift", "Fit", "Weld", "Cast", "Test", "Ship", "Drain", "Grease"];
const THINGS = [
  "hinge",
  "pump",
  "gate leaf",
  "sluice",
  "bollard",
  "pontoon",
  "lamp",
  "cable",
  "fender",
  "caisson",
  "winch",
  "sill",
];
const PLACES = ["upper", "lower", "north", "south", "inner", "outer"];

/** A name as plans have them; the same for the same number. */
export const nameOf = (k: number): string =>
  `${VERBS[k % 10]!} ${THINGS[k % 12]!}, ${PLACES[(k >> 2) % 6]!} reach ${k}`;
