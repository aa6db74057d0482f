import { Column, Entity, PrimaryColumn } from "typeorm";

/** How someone likes a page, in the page's own words. */
@Entity("preference")
export class PreferenceEntity {
  @PrimaryColumn({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @PrimaryColumn({ type: "varchar", length: 60 })
  name!: string;

  @Column({ type: "text" })
  value!: string;
}
