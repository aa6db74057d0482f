import type { Account, Role } from "@chronometra/contract";
import { Column, Entity, PrimaryColumn } from "typeorm";

@Entity("account")
export class AccountEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Column({ type: "varchar", length: 120, unique: true })
  login!: string;

  @Column({ type: "varchar", length: 200 })
  name!: string;

  @Column({ name: "password_hash", type: "varchar", length: 200 })
  passwordHash!: string;

  @Column({ type: "simple-json" })
  roles!: Role[];

  /** The groups for which a role was given; roles that are left out, and `null`, hold for the whole house. */
  @Column({ name: "only_in", type: "simple-json", nullable: true })
  only!: Account["only"] | null;

  /** The id of the person in plans whose work this account sees on its desk. */
  @Column({ name: "person_id", type: "varchar", length: 64, nullable: true })
  personId!: string | null;

  /** Where this account's days begin and end (IANA); `null` as the installation has it. */
  @Column({ name: "time_zone", type: "varchar", length: 64, nullable: true })
  timeZone!: string | null;
}

@Entity("session")
export class SessionEntity {
  @PrimaryColumn({ type: "varchar", length: 128 })
  sid!: string;

  /** Milliseconds since 1970. */
  @Column({ name: "expires_at", type: "bigint" })
  expiresAt!: string;

  @Column({ type: "text" })
  data!: string;
}
