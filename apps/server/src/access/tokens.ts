import { createHash, randomBytes, randomUUID } from "node:crypto";
import { Column, Entity, PrimaryColumn, type DataSource } from "typeorm";
import { Failure } from "../shared/failure.ts";

/** By which another system sends time and costs; only its hash is kept. */
@Entity("api_token")
export class ApiTokenEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 120 })
  name!: string;

  /** SHA-256 of the token, in hexadecimal: a token is long and random, so it needs no slow hash. */
  @Column({ type: "char", length: 64, unique: true })
  hash!: string;

  @Column({ name: "made_by", type: "varchar", length: 36 })
  madeBy!: string;

  @Column({ name: "made_at", type: "datetime", precision: 3 })
  madeAt!: Date;

  @Column({ name: "used_at", type: "datetime", precision: 3, nullable: true })
  usedAt!: Date | null;
}

const hashOf = (token: string): string => createHash("sha256").update(token).digest("hex");

/** Makes a token for another system; it is told once and cannot be read again. */
export async function makeToken(
  database: DataSource,
  madeBy: string,
  name: string,
): Promise<{ id: string; token: string }> {
  const token = `chr_${randomBytes(32).toString("base64url")}`;
  const row = { id: randomUUID(), name, hash: hashOf(token), madeBy, madeAt: new Date(), usedAt: null };
  await database.getRepository(ApiTokenEntity).insert(row);
  return { id: row.id, token };
}

/**
 * The system that an `Authorization: Bearer` header names.
 * @throws {Failure} where there is none
 */
export async function admitSystem(database: DataSource, header: string | undefined): Promise<ApiTokenEntity> {
  const token = /^Bearer (\S+)$/.exec(header ?? "")?.[1];
  const found =
    token === undefined ? null : await database.getRepository(ApiTokenEntity).findOneBy({ hash: hashOf(token) });
  if (found === null)
    throw new Failure(
      "signInNeeded",
      "Send a valid token of this installation as Authorization: Bearer; an administrator makes one under Other systems.",
    );
  await database.getRepository(ApiTokenEntity).update({ id: found.id }, { usedAt: new Date() });
  return found;
}
