import { randomBytes, randomUUID } from "node:crypto";
import { PLACED_ROLES, type Account, type Me, type Role } from "@chronometra/contract";
import { hash, verify } from "@node-rs/argon2";
import type { DataSource, EntityManager } from "typeorm";
import { groupsBelow } from "../project/groupTree.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { installationZone } from "../shared/clock.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { ROLE_WORDS } from "./accessTable.ts";
import { AccountEntity } from "./accountEntity.ts";
import { holdsFor, type Placed } from "../project/reach.ts";

const present = (account: AccountEntity): Account => ({
  id: account.id,
  name: account.name,
  login: account.login,
  roles: account.roles,
  only: account.only ?? {},
  person: account.personId,
  timeZone: account.timeZone ?? installationZone(),
});

/** A group and what it is part of. */
type GroupPlace = Pick<ProgrammeEntity, "id" | "parentId">;

const groupTree = (database: DataSource | EntityManager): Promise<GroupPlace[]> =>
  database.query("select id, parent_id as parentId from programme");

/** Where roles hold that were given for groups: these groups and all below them. */
function reachIn(groups: readonly GroupPlace[], only: Account["only"]): Pick<Me, "within"> {
  const given = Object.entries(only);
  if (given.length === 0) return {};
  const below = (roots: readonly string[]): string[] => [
    ...new Set(roots.flatMap((root) => [...groupsBelow(groups, root)])),
  ];
  return { within: Object.fromEntries(given.map(([role, roots]) => [role, below(roots)])) };
}

/** The same of one account, for which the groups are read where they are needed. */
export const withinOf = async (
  database: DataSource | EntityManager,
  only: Account["only"] | null,
): Promise<Pick<Me, "within">> =>
  only === null || Object.keys(only).length === 0 ? {} : reachIn(await groupTree(database), only);

async function asMe(database: DataSource | EntityManager, account: AccountEntity): Promise<Me> {
  const { only, ...me } = present(account);
  return { ...me, ...(await withinOf(database, only)) };
}

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
  return account !== null && matches ? asMe(database, account) : null;
}

export async function findAccount(database: DataSource | EntityManager, id: string): Promise<Me | null> {
  const account = await database.getRepository(AccountEntity).findOneBy({ id });
  return account === null ? null : asMe(database, account);
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
  readonly only?: Account["only"];
  readonly personId: string | null;
  readonly timeZone?: string | null;
}

export async function addAccount(database: DataSource | EntityManager, account: NewAccount): Promise<Me> {
  const only = await placed(database, account.roles, account.only ?? {});
  const row = database
    .getRepository(AccountEntity)
    .create({ id: randomUUID(), timeZone: null, ...account, only, login: account.login.toLowerCase() });
  await database.getRepository(AccountEntity).insert(row);
  return asMe(database, row);
}

/**
 * The groups for which roles are given, as they are stored.
 * @throws {Failure} for a role that is not held or cannot be given for groups, and for a group that is not there
 */
async function placed(
  database: DataSource | EntityManager,
  roles: readonly Role[],
  only: Account["only"],
): Promise<Account["only"] | null> {
  const given = Object.entries(only) as [Role, string[]][];
  if (given.length === 0) return null;
  const groups = new Set((await database.getRepository(ProgrammeEntity).find()).map(({ id }) => id));
  for (const [role, roots] of given) {
    if (!roles.includes(role) || !(PLACED_ROLES as readonly Role[]).includes(role))
      throw new Failure("invalid", `The role of ${ROLE_WORDS[role]} is not given here, or not for groups.`);
    if (roots.length === 0)
      throw new Failure("invalid", `Say for which groups the role of ${ROLE_WORDS[role]} is given.`);
    if (roots.some((id) => !groups.has(id)))
      throw new Failure("invalid", "There is no such group any more; load the page again.");
  }
  return only;
}

/** Everyone who can sign in, by name. */
export async function listAccounts(database: DataSource): Promise<Account[]> {
  return (await database.getRepository(AccountEntity).find({ order: { name: "ASC" } })).map(present);
}

interface AccountEdit {
  readonly name: string;
  readonly roles: Role[];
  readonly only: Account["only"];
  readonly person: string | null;
  readonly password?: string | undefined;
}

/**
 * Changes an account; a new password ends its sessions.
 * @throws {Failure} where nobody would be left to administer
 */
export async function editAccount(manager: EntityManager, id: string, edit: AccountEdit): Promise<Account> {
  const repository = manager.getRepository(AccountEntity);
  const all = await repository.find({ lock: { mode: "pessimistic_write" } });
  const account = orNotFound(
    all.find((row) => row.id === id),
    "account",
  );
  const others = all.filter((row) => row.id !== id && row.roles.includes("administrator"));
  if (!edit.roles.includes("administrator") && others.length === 0)
    throw new Failure("invalid", "Someone must remain administrator; give another account that role first.");
  const only = await placed(manager, edit.roles, edit.only);
  Object.assign(account, { name: edit.name, roles: edit.roles, only, personId: edit.person });
  if (edit.password !== undefined) account.passwordHash = await hashPassword(edit.password);
  await repository.save(account);
  if (edit.password !== undefined) await endSessions(manager, id);
  return present(account);
}

/** Ends all sessions of an account. */
export async function endSessions(manager: DataSource | EntityManager, accountId: string): Promise<void> {
  await manager.query("delete from session where json_value(data, '$.accountId') = ?", [accountId]);
}

/**
 * Where there is no account at all: makes the first administrator, who also holds all other roles, and gives the
 * password.
 */
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

/** Everyone who can sign in, with where their roles hold, by name. */
export async function everyAccount(database: DataSource | EntityManager): Promise<Me[]> {
  const accounts = await database.getRepository(AccountEntity).find({ order: { name: "ASC" } });
  const groups = await groupTree(database);
  return accounts.map((account) => {
    const { only, ...me } = present(account);
    return { ...me, ...reachIn(groups, only) };
  });
}

/** Accounts that hold a role of some for a project, as they would for a call of their own, by name. */
export async function holdersFor(
  database: DataSource | EntityManager,
  roles: readonly Role[],
  project: Placed,
): Promise<{ id: string; name: string }[]> {
  return (await everyAccount(database))
    .filter((each) => holdsFor(each, roles, project))
    .map(({ id, name }) => ({ id, name }));
}

/** Whoever may decide gates, requests and the plan of a project, by name. */
export const deciders = (
  database: DataSource | EntityManager,
  project: Placed,
): Promise<{ id: string; name: string }[]> => holdersFor(database, ["approver"], project);
