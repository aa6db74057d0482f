import type { FeedLine } from "@chronometra/contract";
import { addDays, formatDate, parseDate, planTree, schedulePlan, toBundle, weekdayOf } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { loadPlan } from "../../plan/stored/planStore.ts";
import { ProjectEntity } from "../../project/projectEntity.ts";
import { todayHere } from "../../shared/clock.ts";

/** A number that hangs on a text alone, 0 up to 1: what is simulated comes out the same each time. */
function chance(text: string): number {
  let hash = 2_166_136_261;
  for (const letter of text) hash = Math.imul(hash ^ letter.codePointAt(0)!, 16_777_619);
  return (hash >>> 0) / 2 ** 32;
}

const SATURDAY = 5;
const DAYS = 7;
const SUPPLIERS = ["Brackwater Hire", "Thole & Sons", "Estuary Stores", "Fathom Plant"];

interface Open {
  readonly code: string;
  readonly activity: string;
  readonly name: string;
  readonly people: readonly string[];
}

/** Work that is under way, with its people's names. */
async function underWay(database: DataSource): Promise<Open[]> {
  const open: Open[] = [];
  for (const project of await database.getRepository(ProjectEntity).find({ order: { code: "ASC" } })) {
    const plan = await loadPlan(database.manager, project);
    const bundle = toBundle(plan);
    const { rows } = schedulePlan(bundle);
    const { parked } = planTree(bundle.activities);
    bundle.activities.forEach(({ id, name, kind }, i) => {
      if (rows[i]?.state !== "inProgress" || kind === "summary" || kind === "milestone" || parked.has(id)) return;
      const people = [...plan.assignments.values()]
        .filter(({ activity, person }) => activity === id && !plan.placeholders.has(person))
        .map(({ person }) => plan.people.get(person)?.name ?? person);
      open.push({ code: project.code, activity: id, name, people });
    });
  }
  return open;
}

/** Working days of the last week, the oldest first. */
function lastDays(): string[] {
  const now = parseDate(todayHere())!;
  return Array.from({ length: DAYS }, (_, i) => addDays(now, i - DAYS))
    .filter((day) => weekdayOf(day) < SATURDAY)
    .map(formatDate);
}

/** What a time clock at the gate would have counted in the last week. */
export async function clockLines(database: DataSource): Promise<FeedLine[]> {
  return (await underWay(database)).flatMap(({ code, activity, people }) =>
    people.slice(0, 1).flatMap((person) =>
      lastDays().flatMap((date): FeedLine[] => {
        const key = `${code} ${activity} ${person} ${date}`;
        return chance(key) < 0.82
          ? []
          : [
              {
                reference: `gate-${code}-${activity}-${date}-${person.length}`,
                project: code,
                activity,
                person,
                date,
                minutes: 30 + 15 * Math.floor(chance(`${key} m`) * 12),
                note: "gate",
              },
            ];
      }),
    ),
  );
}

/** What a ledger would have booked in the last week; some of it names the work in words of its own. */
export async function ledgerLines(database: DataSource): Promise<FeedLine[]> {
  return (await underWay(database)).flatMap(({ code, activity, name }): FeedLine[] => {
    const key = `${code} ${activity}`;
    if (chance(key) < 0.55) return [];
    const vague = chance(`${key} v`) > 0.75;
    const days = lastDays();
    const date = days[Math.floor(chance(`${key} d`) * days.length)]!;
    return [
      {
        reference: `INV-${code}-${activity}-${date}`,
        project: code,
        activity: vague ? `${name.split(",")[0]!} works` : activity,
        date,
        amount: Math.round(chance(`${key} a`) * 480_000) / 100 + 120,
        category: chance(`${key} c`) > 0.5 ? "plant" : "material",
        note: SUPPLIERS[Math.floor(chance(`${key} s`) * SUPPLIERS.length)]!,
      },
    ];
  });
}
