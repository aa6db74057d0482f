import { randomBytes, randomUUID } from "node:crypto";
import type { Me, Role } from "@chronometra/contract";
import { hash, verify } from "@node-rs/argon2";
import type { DataSource, EntityManager } from "typeorm";
import { installationZone } from "../shared/clock.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { AccountEntity } from "./accountEntity.ts";

export const asMe = (account: AccountEntity): Me => ({
  id: account.id,
  name: account.name,
  login: account.login,
  roles: account.roles,
  person: account.personId,
  timeZone: account.timeZone ?? installationZone(),
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
  readonly timeZone?: string | null;
}

export async function addAccount(database: DataSource | EntityManager, account: NewAccount): Promise<Me> {
  const row = database
    .getRepository(AccountEntity)
    .create({ id: randomUUID(), timeZone: null, ...account, login: account.login.toLowerCase() });
  await database.getRepository(AccountEntity).insert(row);
  return asMe(row);
}

/** Everyone who can sign in, by name. */
export async function listAccounts(database: DataSource): Promise<Me[]> {
  return (await database.getRepository(AccountEntity).find({ order: { name: "ASC" } })).map(asMe);
}

interface AccountEdit {
  readonly name: string;
  readonly roles: Role[];
  readonly person: string | null;
  readonly password?: string | undefined;
}

/**
 * Changes an account; a new password ends its sessions.
 * @throws {Failure} where nobody would be left to administer
 */
export async function editAccount(manager: EntityManager, id: string, edit: AccountEdit): Promise<Me> {
  const repository = manager.getRepository(AccountEntity);
  const all = await repository.find({ lock: { mode: "pessimistic_write" } });
  const account = orNotFound(
    all.find((row) => row.id === id),
    "account",
  );
  const others = all.filter((row) => row.id !== id && row.roles.includes("administrator"));
  if (!edit.roles.includes("administrator") && others.length === 0)
    throw new Failure("invalid", "Someone must remain administrator; give another account that role first.");
  Object.assign(account, { name: edit.name, roles: edit.roles, personId: edit.person });
  if (edit.password !== undefined) account.passwordHash = await hashPassword(edit.password);
  await repository.save(account);
  if (edit.password !== undefined) await endSessions(manager, id);
  return asMe(account);
}

/** Ends all sessions of an account. */
export async function endSessions(manager: DataSource | EntityManager, accountId: string): Promise<void> {
  await manager.query("delete from session where json_value(data, '$.accountId') = ?", [accountId]);
}

/** Where there is no account at all: makes the first administrator, who also holds all other roles, and gives the password. */
export async function addFirstAccount(database: DataSource): Promise<{ login: string; password: string } | null> {
  if ((await database.getRepository(AccountEntity).count()) > 0) return null;
  const password = randomBytes(9).toString("base64url");
  await addAccount(database, {
    login: "admin",
    name: "Administrator",
    passwordHash: await hashPassword(password),
    roles: ["administrator", "controller"],
    personId: null,
  });
  return { login: "admin", password };
}

/** Whoever may manage a project, by name. */
export const managersOf = (database: DataSource | EntityManager): Promise<{ id: string; name: string }[]> =>
  database.query(
    `select id, name from account
      where json_contains(roles, '"projectManager"') or json_contains(roles, '"controller"') order by name`,
  );

/** Whoever may decide gates, requests and plans, by name. */
export const deciders = (database: DataSource | EntityManager): Promise<{ id: string; name: string }[]> =>
  database.query(`select id, name from account where json_contains(roles, '"approver"') order by name`);
