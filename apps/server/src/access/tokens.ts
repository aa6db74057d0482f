import { createHash, randomBytes } from "node:crypto";
import { TOKEN_PURPOSES, type BodyOf, type Me, type TokenPurpose, type Tokens } from "@chronometra/contract";
import { Column, Entity, PrimaryColumn, type DataSource, type EntityManager } from "typeorm";
import { groupNames, presentGroup } from "../project/groupTree.ts";
import { ProgrammeEntity } from "../project/projectEntity.ts";
import { installationZone, todayHere } from "../shared/clock.ts";
import { Failure } from "../shared/failure.ts";
import { withinOf } from "./accounts.ts";

/** By which another system reads and sends; only its hash is kept. */
@Entity("api_token")
export class ApiTokenEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 120 })
  name!: string;

  /** SHA-256 of the token, in hexadecimal: a token is long and random, so it needs no slow hash. */
  @Column({ type: "char", length: 64, unique: true })
  hash!: string;

  /** What it is for, with commas. */
  @Column({ type: "varchar", length: 120 })
  purposes!: string;

  /** The group that it is for, with all below it; `null` for the whole house. */
  @Column({ name: "group_id", type: "varchar", length: 36, nullable: true })
  groupId!: string | null;

  /** The last day on which it is taken. */
  @Column({ name: "last_day", type: "char", length: 10, nullable: true })
  lastDay!: string | null;

  @Column({ name: "made_by", type: "varchar", length: 36 })
  madeBy!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;

  @Column({ name: "used_at", type: "datetime", precision: 3, nullable: true })
  usedAt!: Date | null;
}

/** Another system that has shown its token. */
export interface OtherSystem {
  readonly name: string;
  /** What it reads by: a reader of its group, who is nobody here. */
  readonly reader: Me;
}

/** How long it is not noted again that a token was used. */
const USED_AGAIN_MILLISECONDS = 60_000;

const hashOf = (token: string): string => createHash("sha256").update(token).digest("hex");

/** What a token is for. */
export const purposesOf = ({ purposes }: Pick<ApiTokenEntity, "purposes">): TokenPurpose[] =>
  (Object.keys(TOKEN_PURPOSES) as TokenPurpose[]).filter((each) => purposes.split(",").includes(each));

const hasEnded = ({ lastDay }: ApiTokenEntity): boolean => lastDay !== null && lastDay < todayHere();

/** A token as it is asked for. */
interface NewToken extends BodyOf<"POST /api/tokens"> {
  readonly id: string;
  readonly madeBy: string;
}

/**
 * Makes a token for another system; it is told once and cannot be read again.
 * @throws {Failure} for a group that is not there, and for a last day that has passed
 */
export async function makeToken(
  manager: EntityManager,
  { id, madeBy, name, purposes, group, lastDay }: NewToken,
): Promise<{ row: ApiTokenEntity; token: string }> {
  if (group !== null && !(await manager.getRepository(ProgrammeEntity).existsBy({ id: group })))
    throw new Failure("invalid", "There is no such group any more; load the page again.");
  if (lastDay !== null && lastDay < todayHere())
    throw new Failure("invalid", "The last day of the token has passed already; give a later one, or none.");
  const token = `chr_${randomBytes(32).toString("base64url")}`;
  const row = {
    ...{ id, name, hash: hashOf(token), madeBy, madeAt: new Date(), usedAt: null },
    ...{ purposes: [...new Set(purposes)].join(","), groupId: group, lastDay },
  };
  await manager.getRepository(ApiTokenEntity).insert(row);
  return { row, token };
}

/** Every token there is, the newest first. */
export async function listTokens(database: DataSource): Promise<Tokens> {
  const [tokens, names] = await Promise.all([
    database.getRepository(ApiTokenEntity).find({ order: { madeAt: "DESC" } }),
    groupNames(database),
  ]);
  return tokens.map((token) => ({
    id: token.id,
    name: token.name,
    purposes: purposesOf(token),
    group: presentGroup(token.groupId, names),
    lastDay: token.lastDay,
    ended: hasEnded(token),
    madeAt: token.madeAt.toISOString(),
    usedAt: token.usedAt?.toISOString() ?? null,
  }));
}

/** Ends a token, and gives what it was. Throws a Failure where there is none. */
export async function endToken(manager: EntityManager, id: string): Promise<ApiTokenEntity> {
  const tokens = manager.getRepository(ApiTokenEntity);
  const row = await tokens.findOne({ where: { id }, lock: { mode: "pessimistic_write" } });
  if (row === null) throw new Failure("notFound", "There is no such token any more.");
  await tokens.delete({ id });
  return row;
}

async function readerOf(database: DataSource, { id, name, groupId }: ApiTokenEntity): Promise<Me> {
  const within = await withinOf(database, groupId === null ? null : { reader: [groupId] });
  return { id, name, login: "", roles: ["reader"], ...within, person: null, timeZone: installationZone() };
}

/**
 * The system that an `Authorization: Bearer` header names.
 * @throws {Failure} where there is none, where its last day has passed, and where its token is for something else
 */
export async function admitSystem(
  database: DataSource,
  header: string | undefined,
  purpose: TokenPurpose,
): Promise<OtherSystem> {
  const token = /^Bearer (\S+)$/.exec(header ?? "")?.[1];
  const tokens = database.getRepository(ApiTokenEntity);
  const found = token === undefined ? null : await tokens.findOneBy({ hash: hashOf(token) });
  if (found === null || hasEnded(found))
    throw new Failure(
      "signInNeeded",
      "Send a valid token of this installation as Authorization: Bearer; an administrator makes one under Other systems.",
    );
  if (!purposesOf(found).includes(purpose))
    throw new Failure(
      "notAllowed",
      `This token is not made to ${TOKEN_PURPOSES[purpose]}; an administrator makes one that is under Other systems.`,
    );
  if (found.usedAt === null || Date.now() - found.usedAt.getTime() > USED_AGAIN_MILLISECONDS)
    await tokens.update({ id: found.id }, { usedAt: new Date() });
  return { name: found.name, reader: await readerOf(database, found) };
}
