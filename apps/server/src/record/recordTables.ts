import { RECORD_ROWS, RECORD_TABLES, recordKinds, type RecordTable } from "@chronometra/contract";
import type { EntityTarget, ObjectLiteral } from "typeorm";
import { z } from "zod";
import {
  ApprovalEntity,
  ApprovalPlanEntity,
  BaselineEntity,
  BaselinePlanEntity,
} from "../approve/kept/approveEntities.ts";
import { ReserveEntryEntity, WhatIfEntity, WhatIfListEntity } from "../approve/kept/whatIfEntities.ts";
import { CharterLogEntity, ProjectCharterEntity } from "../charter/charterEntities.ts";
import { ReportEntity } from "../collect/kept/reportEntity.ts";
import {
  CycleMarkEntity,
  IssuedPeriodEntity,
  IssuedPlanEntity,
  PeriodLockEntity,
  ProjectClosingEntity,
} from "../cycle/cycleEntities.ts";
import { DocumentEntity, DocumentPartEntity, DocumentVersionEntity } from "../documents/documentEntities.ts";
import { GateActionEntity, GateEventEntity, ProjectLifeEntity } from "../gates/gateEntities.ts";
import { MatterEntity, MatterEventEntity, MatterStandingEntity, MatterTieEntity } from "../matters/matterEntities.ts";
import { ChangeListEntity } from "../plan/stored/planEntities.ts";
import { ProjectSaysEntity, ProjectValueEntity } from "../project/projectEntity.ts";
import { IssuedReportEntity, ReportRecipientEntity, ReportSaidEntity } from "../report/reportEntities.ts";
import { FollowingEntity, TalkFileEntity, TalkMessageEntity } from "../talk/talkEntities.ts";

/** Tables of a record that tell of the installation, and not of the project alone. */
export type HouseTable = "accounts" | "periods" | "lifeCycles" | "projectFields";
export type KeptTable = Exclude<RecordTable, HouseTable>;

interface Kept {
  readonly entity: EntityTarget<ObjectLiteral>;
  /**
   * The field that names the project; or the one that names a row of other tables of it, by their field (`id`); or that it
   * is said of the project, or of something in its registers, where no project is named.
   */
  readonly of: "projectId" | "subjectId" | "place" | Within;
}

/** Rows that belong to rows of other tables. */
export interface Within {
  readonly field: string;
  readonly in: readonly KeptTable[];
  readonly by?: string;
}

const ofProject = (entity: EntityTarget<ObjectLiteral>): Kept => ({ entity, of: "projectId" });
const ofSubject = (entity: EntityTarget<ObjectLiteral>): Kept => ({ entity, of: "subjectId" });

/** Where each table of a record is kept, those first that others name. */
export const KEPT: Readonly<Record<KeptTable, Kept>> = {
  charters: ofProject(ProjectCharterEntity),
  charterLog: ofProject(CharterLogEntity),
  lives: ofProject(ProjectLifeEntity),
  gateEvents: ofProject(GateEventEntity),
  gateActions: ofProject(GateActionEntity),
  values: ofProject(ProjectValueEntity),
  says: ofProject(ProjectSaysEntity),
  closings: ofProject(ProjectClosingEntity),
  matters: ofProject(MatterEntity),
  matterTies: { entity: MatterTieEntity, of: { field: "matterId", in: ["matters"] } },
  matterEvents: { entity: MatterEventEntity, of: { field: "matterId", in: ["matters"] } },
  matterStandings: ofProject(MatterStandingEntity),
  history: ofProject(ChangeListEntity),
  baselines: ofProject(BaselineEntity),
  baselinePlans: ofProject(BaselinePlanEntity),
  approvals: ofProject(ApprovalEntity),
  approvalPlans: { entity: ApprovalPlanEntity, of: { field: "approvalId", in: ["approvals"] } },
  whatIfs: ofProject(WhatIfEntity),
  whatIfLists: { entity: WhatIfListEntity, of: { field: "whatIfId", in: ["whatIfs"] } },
  reserves: ofProject(ReserveEntryEntity),
  issuedPeriods: ofProject(IssuedPeriodEntity),
  issuedPlans: ofProject(IssuedPlanEntity),
  issuedReports: ofSubject(IssuedReportEntity),
  said: ofSubject(ReportSaidEntity),
  recipients: ofSubject(ReportRecipientEntity),
  locks: ofProject(PeriodLockEntity),
  marks: ofProject(CycleMarkEntity),
  reports: ofProject(ReportEntity),
  talk: { entity: TalkMessageEntity, of: "place" },
  talkFiles: { entity: TalkFileEntity, of: { field: "messageId", in: ["talk"] } },
  followings: { entity: FollowingEntity, of: "place" },
  documents: ofProject(DocumentEntity),
  documentVersions: { entity: DocumentVersionEntity, of: { field: "documentId", in: ["documents", "talkFiles"] } },
  documentParts: { entity: DocumentPartEntity, of: { field: "contentId", in: ["documentVersions"], by: "contentId" } },
};
export const KEPT_TABLES = Object.keys(KEPT) as readonly KeptTable[];

type Fields = Readonly<Record<string, unknown>>;

interface Field {
  readonly name: string;
  readonly is: "moment" | "json" | "bytes" | "number" | "plain";
  readonly mayBeMissing: boolean;
}

/** How the fields of a table's rows are told, by its schema. */
function fieldsOf(table: RecordTable): readonly Field[] {
  const shape = RECORD_ROWS[table].shape as Readonly<Record<string, z.ZodType>>;
  return Object.entries(shape).map(([name, schema]) => {
    const mayBeMissing = schema instanceof z.ZodOptional;
    const inner = mayBeMissing ? (schema.unwrap() as z.ZodType) : schema;
    const is = recordKinds.get(inner)?.is ?? (inner instanceof z.ZodNumber ? "number" : "plain");
    return { name, is, mayBeMissing };
  });
}
const FIELDS = new Map(RECORD_TABLES.map((table) => [table, fieldsOf(table)]));

/** A row as it is told in a record; what holds nothing is left out. */
export function toldRow(table: RecordTable, row: Fields): Fields {
  const told: Record<string, unknown> = {};
  for (const { name, is } of FIELDS.get(table)!) {
    const value = row[name];
    if (value === null || value === undefined) continue;
    if (is === "moment") told[name] = (value as Date).toISOString();
    else if (is === "json") told[name] = JSON.parse(value as string);
    else if (is === "bytes") told[name] = (value as Buffer).toString("base64");
    else told[name] = is === "number" ? Number(value) : value;
  }
  return told;
}

/** A told row as it is stored. */
export function storedRow(table: RecordTable, row: Fields): Record<string, unknown> {
  const stored: Record<string, unknown> = {};
  for (const { name, is } of FIELDS.get(table)!) {
    const value = row[name];
    if (value === undefined) stored[name] = null;
    else if (is === "moment") stored[name] = new Date(value as string);
    else if (is === "bytes") stored[name] = Buffer.from(value as string, "base64");
    else stored[name] = is === "json" ? JSON.stringify(value) : value;
  }
  return stored;
}
