import { randomUUID } from "node:crypto";
import type { Me, Watchlist, WatchQuestion } from "@chronometra/contract";
import type { DataSource } from "typeorm";
import { accountNames } from "../access/accounts.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { READY_WATCHLISTS } from "./ready.ts";
import { WatchlistEntity } from "./watchEntities.ts";

const rolesOf = ({ roles }: WatchlistEntity): Watchlist["roles"] =>
  roles === "" ? [] : (roles.split(",") as Watchlist["roles"]);

const present = (me: Me, names: ReadonlyMap<string, string>, row: WatchlistEntity): Watchlist => ({
  id: row.id,
  name: row.name,
  question: JSON.parse(row.question) as WatchQuestion,
  roles: rolesOf(row),
  owner: names.get(row.accountId) ?? "",
  mine: row.accountId === me.id,
  ready: false,
});

/** Watchlists that someone finds: those that ship, their own, and those shared with one of their roles. */
export async function watchlistsFor(database: DataSource, me: Me): Promise<Watchlist[]> {
  const [rows, names] = await Promise.all([
    database.getRepository(WatchlistEntity).find({ order: { name: "ASC" } }),
    accountNames(database),
  ]);
  const found = rows.filter((row) => row.accountId === me.id || rolesOf(row).some((role) => me.roles.includes(role)));
  return [...READY_WATCHLISTS, ...found.map((row) => present(me, names, row))];
}

/** One watchlist: whoever has the link may open it. */
export async function watchlist(database: DataSource, me: Me, id: string): Promise<Watchlist> {
  const ready = READY_WATCHLISTS.find((each) => each.id === id);
  if (ready !== undefined) return ready;
  return present(
    me,
    await accountNames(database),
    orNotFound(await database.getRepository(WatchlistEntity).findOneBy({ id }), "watchlist of that address"),
  );
}

/** Keeps a new watchlist. */
export async function makeWatchlist(
  database: DataSource,
  me: Me,
  { name, question, roles }: Pick<Watchlist, "name" | "question" | "roles">,
): Promise<Watchlist> {
  const row = {
    id: randomUUID(),
    name,
    accountId: me.id,
    question: JSON.stringify(question),
    roles: [...new Set(roles)].join(","),
    madeAt: new Date(),
  };
  await database.getRepository(WatchlistEntity).insert(row);
  return present(me, new Map([[me.id, me.name]]), row);
}

async function mine(database: DataSource, me: Me, id: string): Promise<WatchlistEntity> {
  if (READY_WATCHLISTS.some((each) => each.id === id))
    throw new Failure("invalid", "This watchlist ships with the application; keep a copy under a name of yours.");
  const row = orNotFound(await database.getRepository(WatchlistEntity).findOneBy({ id }), "watchlist of that address");
  if (row.accountId !== me.id)
    throw new Failure("notAllowed", "Only whoever made a watchlist changes it; keep a copy under a name of yours.");
  return row;
}

export async function writeWatchlist(
  database: DataSource,
  me: Me,
  id: string,
  { name, question, roles }: Pick<Watchlist, "name" | "question" | "roles">,
): Promise<void> {
  await mine(database, me, id);
  await database
    .getRepository(WatchlistEntity)
    .update({ id }, { name, question: JSON.stringify(question), roles: [...new Set(roles)].join(",") });
}

export async function dropWatchlist(database: DataSource, me: Me, id: string): Promise<void> {
  await mine(database, me, id);
  await database.getRepository(WatchlistEntity).delete({ id });
}
