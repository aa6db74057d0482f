import type { LifeCycle, Me, RoadGate, Summary } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { dayOf } from "../shared/clock.ts";
import { dayOfGate, saidOf, type SaidOfGate } from "./gateLife.ts";

/** A project's gates where they have a day: due on one or with a milestone, or passed. */
export type GatesOf = (project: string, milestones: Summary["milestones"]) => RoadGate[];

/** Reads the gates of all projects at once. */
export async function roadGates(database: DataSource, me: Me): Promise<GatesOf> {
  const [lives, cycles, events] = (await Promise.all([
    database.query("select project_id as project, life_cycle_id as cycle, passed, said from project_life"),
    database.query("select id, content from life_cycle"),
    database.query(
      `select project_id as project, stage_id as stage, max(at) as at from gate_event
        where act in ('passed', 'conditional') group by project_id, stage_id`,
    ),
  ])) as [
    { project: string; cycle: string; passed: string; said: string }[],
    { id: string; content: string }[],
    { project: string; stage: string; at: Date }[],
  ];
  const stagesOf = new Map(cycles.map(({ id, content }) => [id, (JSON.parse(content) as LifeCycle).stages]));
  const lifeOf = new Map(lives.map((life) => [life.project, life]));
  const passedOn = new Map(events.map(({ project, stage, at }) => [`${project} ${stage}`, dayOf(me, at)]));
  return (project, milestones) => {
    const life = lifeOf.get(project);
    if (life === undefined) return [];
    const passed = new Set(JSON.parse(life.passed) as string[]);
    const said = JSON.parse(life.said) as Record<string, SaidOfGate>;
    return (stagesOf.get(life.cycle) ?? []).flatMap(({ id: stage, gate: name }): RoadGate[] => {
      const on = passed.has(stage) ? passedOn.get(`${project} ${stage}`) : undefined;
      const day = on === undefined ? dayOfGate(saidOf({ said }, stage).due, milestones) : { date: on, approved: null };
      return day === null ? [] : [{ stage, name, ...day, passed: passed.has(stage) }];
    });
  };
}
