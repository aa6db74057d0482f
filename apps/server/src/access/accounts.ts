import { randomUUID } from "node:crypto";
import type { Me, Role } from "@chronometra/contract";
import { hash, verify } from "@node-rs/argon2";
import type { DataSource, EntityManager } from "typeorm";
import { AccountEntity } from "./accountEntity.ts";

export const asMe = (account: AccountEntity): Me => ({
  id: account.id,
  name: account.name,
  login: account.login,
  roles: account.roles,
  person: account.personId,
});

/** Argon2id with the parameters that OWASP's password storage cheat sheet asks for (19 MiB, 2 passes). */
const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };

export const hashPassword = (password: string): Promise<string> => hash(password, ARGON);

/** A hash to check against where there is no such account, so that both answers take the same time. */
let decoy: Promise<string> | undefined;

/** The account of that name and password, or null. */
export async function findByPassword(database: DataSource, login: string, password: string): Promise<Me | null> {
  const account = await database.getRepository(AccountEntity).findOneBy({ login: login.trim().toLowerCase() });
  const stored = account?.passwordHash ?? (await (decoy ??= hashPassword(randomUUID())));
  const matches = await verify(stored, password);
  return account !== null && matches ? asMe(account) : null;
}

export async function findAccount(database: DataSource | EntityManager, id: string): Promise<Me | null> {
  const account = await database.getRepository(AccountEntity).findOneBy({ id });
  return account === null ? null : asMe(account);
}

/** Names by account id. */
export async function accountNames(database: DataSource | EntityManager): Promise<Map<string, string>> {
  const rows = await database.getRepository(AccountEntity).find({ select: { id: true, name: true } });
  return new Map(rows.map(({ id, name }) => [id, name]));
}

export interface NewAccount {
  readonly login: string;
  readonly name: string;
  readonly passwordHash: string;
  readonly roles: Role[];
  readonly personId: string | null;
}

export async function addAccount(database: DataSource | EntityManager, account: NewAccount): Promise<Me> {
  const row = database.getRepository(AccountEntity).create({ id: randomUUID(), ...account, login: account.login.toLowerCase() });
  await database.getRepository(AccountEntity).insert(row);
  return asMe(row);
}
