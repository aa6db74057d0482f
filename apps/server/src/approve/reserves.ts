import { numberWords } from "@chronometra/core";
import { randomUUID } from "node:crypto";
import type { Me, Reserves } from "@chronometra/contract";
import type { DataSource, EntityManager } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { findProject } from "../project/projectAccess.ts";
import { mayEdit } from "../project/reach.ts";
import { Failure } from "../shared/failure.ts";
import { ReserveEntryEntity } from "./kept/whatIfEntities.ts";

type Kind = ReserveEntryEntity["kind"];
const WORDS: Readonly<Record<Kind, string>> = { contingency: "contingency", management: "management reserve" };

const balanceOf = (entries: readonly ReserveEntryEntity[], kind: Kind): number =>
  entries.reduce((sum, entry) => (entry.kind === kind ? sum + Number(entry.amountMinor) : sum), 0);

/** What is set aside in a project, and every entry, newest first. */
export async function reservesOf(database: DataSource | EntityManager, me: Me, projectId: string): Promise<Reserves> {
  const project = await findProject(database, projectId);
  const entries = await database
    .getRepository(ReserveEntryEntity)
    .find({ where: { projectId }, order: { madeAt: "DESC" } });
  const names = await accountNames(database);
  return {
    currency: project.head.currency,
    minorDigits: project.head.minorDigits ?? 2,
    mayEdit: mayEdit(me, project),
    balances: { contingency: balanceOf(entries, "contingency"), management: balanceOf(entries, "management") },
    entries: entries.map(({ id, kind, amountMinor, reason, madeBy, madeAt, request }) => ({
      id,
      kind,
      amountMinor: Number(amountMinor),
      reason,
      by: names.get(madeBy) ?? "",
      at: madeAt.toISOString(),
      request,
    })),
  };
}

/** Refuses a draw of more than a reserve has. */
export async function assertLeft(
  manager: EntityManager,
  projectId: string,
  kind: Kind,
  drawMinor: number,
): Promise<void> {
  const left = balanceOf(await manager.getRepository(ReserveEntryEntity).findBy({ projectId }), kind);
  if (drawMinor <= left) return;
  const { head } = await findProject(manager, projectId);
  const amount = (minor: number): string =>
    `${numberWords(minor / 10 ** (head.minorDigits ?? 2), head.minorDigits ?? 2)} ${head.currency}`;
  throw new Failure("invalid", `${amount(left)} of ${WORDS[kind]} remain; ${amount(drawMinor)} cannot be drawn.`);
}

/** Sets aside or draws; never more than there is. The project's row must be locked. */
export async function enterReserve(
  manager: EntityManager,
  me: Me,
  projectId: string,
  entry: { kind: Kind; amountMinor: number; reason: string; request?: number },
  at = new Date(),
): Promise<void> {
  const repository = manager.getRepository(ReserveEntryEntity);
  await assertLeft(manager, projectId, entry.kind, -entry.amountMinor);
  await repository.insert({
    id: randomUUID(),
    projectId,
    kind: entry.kind,
    amountMinor: String(entry.amountMinor),
    reason: entry.reason,
    madeBy: me.id,
    madeAt: at,
    request: entry.request ?? null,
  });
}
