import type { Me } from "@chronometra/contract";
import type { EntityManager } from "typeorm";
import { AccountEntity } from "../../access/accountEntity.ts";
import { ReportingPeriodEntity } from "../../cycle/cycleEntities.ts";
import { LifeCycleEntity } from "../../gates/gateEntities.ts";
import { ProjectFieldEntity } from "../../project/projectEntity.ts";
import { holdsEverywhere } from "../../project/reach.ts";
import type { House } from "./meetHouse.ts";

/** What of this installation a file may speak of that someone brings. */
export async function houseFacts(manager: EntityManager, me: Me): Promise<House> {
  const accounts = await manager.getRepository(AccountEntity).find({ select: { id: true, login: true, name: true } });
  const periods = await manager.getRepository(ReportingPeriodEntity).find({ order: { number: "ASC" } });
  const lifeCycles = await manager.getRepository(LifeCycleEntity).find();
  const projectFields = await manager.getRepository(ProjectFieldEntity).find();
  return {
    mayBring: holdsEverywhere(me, "controller"),
    accounts: accounts.map(({ id, login, name }) => ({ id, login, name })),
    periods: periods.map(({ number, dataDate }) => ({ number, dataDate })),
    lifeCycles: lifeCycles.map(({ id, kind, content }) => ({ id, kind, content: JSON.parse(content) as never })),
    projectFields: projectFields.map(({ id, position, definition }) => ({ id, position, definition })),
  };
}
