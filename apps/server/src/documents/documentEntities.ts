import type { DocumentPlace } from "@chronometra/contract";
import { Column, Entity, Index, PrimaryColumn } from "typeorm";

/** A file or a link, on a project or on something in it. */
@Entity("document")
export class DocumentEntity {
  @PrimaryColumn({ type: "varchar", length: 36 })
  id!: string;

  @Index("document_project")
  @Column({ name: "project_id", type: "varchar", length: 36 })
  projectId!: string;

  @Column({ type: "varchar", length: 12 })
  about!: DocumentPlace;

  @Column({ name: "about_id", type: "varchar", length: 80 })
  aboutId!: string;

  @Column({ type: "varchar", length: 200 })
  name!: string;

  /** `null` of a file. */
  @Column({ type: "varchar", length: 2000, nullable: true })
  link!: string | null;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ name: "removed_by", type: "varchar", length: 36, nullable: true })
  removedBy!: string | null;

  @Column({ name: "removed_at", type: "datetime", precision: 3, nullable: true })
  removedAt!: Date | null;
}

/** A file as it came once; a later one of the same document is another version. */
@Entity("document_version")
export class DocumentVersionEntity {
  @PrimaryColumn({ name: "document_id", type: "varchar", length: 36 })
  documentId!: string;

  @PrimaryColumn({ type: "int" })
  number!: number;

  @Column({ type: "varchar", length: 255 })
  file!: string;

  @Column({ type: "varchar", length: 100 })
  type!: string;

  @Column({ type: "int" })
  size!: number;

  /** SHA-256 of the bytes, in hexadecimal digits. */
  @Column({ type: "char", length: 64 })
  digest!: string;

  @Index("document_version_content")
  @Column({ name: "content_id", type: "varchar", length: 36 })
  contentId!: string;

  @Column({ name: "account_id", type: "varchar", length: 36 })
  accountId!: string;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;
}

/** A part of a file's bytes: they come and go one after the other, and are never whole in memory. */
@Entity("document_part")
export class DocumentPartEntity {
  @PrimaryColumn({ name: "content_id", type: "varchar", length: 36 })
  contentId!: string;

  @PrimaryColumn({ type: "int" })
  part!: number;

  @Column({ type: "datetime", precision: 3 })
  at!: Date;

  @Column({ type: "mediumblob" })
  bytes!: Buffer;
}

/** The tables of this room. */
export const DOCUMENT_ENTITIES = [DocumentEntity, DocumentVersionEntity, DocumentPartEntity];
