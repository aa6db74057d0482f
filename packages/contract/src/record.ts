import { ASPECTS, bundleSchema, changeSchema, dateSchema, idSchema, ownValueSchema, RATINGS } from "@chronometra/core";
import { z } from "zod";
import { charterSchema } from "./charter.ts";
import { dueSchema, heldSchema, lifeCycleSchema } from "./gates.ts";
import { GATE_ACTS } from "./gateWords.ts";
import { THROUGH } from "./historyWords.ts";
import { projectFieldSchema, summarySchema } from "./look.ts";
import { residualSchema } from "./matters.ts";
import { MATTER_KINDS, MATTER_STATES, STRATEGIES, TIE_PLACES } from "./matterWords.ts";
import { reportContentSchema } from "./report.ts";
import { amountMinorSchema } from "./units.ts";
import { DOCUMENT_PLACES } from "./documentWords.ts";
import { webLinkSchema } from "./documents.ts";
import { LONGEST_MESSAGE, TALK_PLACES } from "./talkWords.ts";
import { drawSchema } from "./whatIf.ts";

/**
 * What a project keeps besides its plan, as version 2 of the plan bundle has it under `record`: a list of rows for each
 * table. Fields that hold nothing are left out. Ids are those of the installation that wrote them.
 */

/** A moment in UTC; and what the database keeps as the text of its JSON. */
export const recordKinds = z.registry<{ readonly is: "moment" | "json" | "bytes" }>();
const bytes = z.base64().register(recordKinds, { is: "bytes" });
const moment = z.iso.datetime().register(recordKinds, { is: "moment" });
const json = <S extends z.ZodType>(schema: S): S => {
  recordKinds.add(schema, { is: "json" });
  return schema;
};

const uuid = z.uuid();
/** The key of something that the installation has, such as a stage of a life cycle. */
const houseKey = z.string().min(1).max(36);
const account = uuid.describe("an account, by its id under `accounts`");
const number = z.int().min(1).describe("a reporting period, by its number under `periods`");
const text = (most: number): z.ZodString => z.string().max(most);
const edition = z.int().min(1);
const revision = z.int().min(1).describe("a revision of the plan");
const changes = json(z.array(changeSchema));
const digest = z.string().regex(/^[0-9a-f]{64}$/, "must be a SHA-256 in hexadecimal digits");
const maybe = z.optional;

/** The installation as far as the rows speak of it. */
const houseTables = {
  accounts: z.strictObject({ id: uuid, login: text(100), name: text(200) }),
  periods: z.strictObject({ number, fromDate: dateSchema, dataDate: dateSchema, issueBy: text(16) }),
  lifeCycles: z.strictObject({ id: houseKey, kind: text(100), content: json(lifeCycleSchema) }),
  projectFields: z.strictObject({ id: houseKey, position: z.int(), definition: projectFieldSchema }),
};

const ofProject = {
  charters: z.strictObject({
    state: charterSchema.shape.state,
    content: json(z.strictObject(charterSchema.omit({ state: true }).partial().shape)),
  }),
  charterLog: z.strictObject({ at: moment, accountId: account, what: text(1000) }),
  lives: z.strictObject({
    lifeCycleId: houseKey,
    passed: json(z.array(houseKey)),
    said: json(
      z.record(
        houseKey,
        z.strictObject({
          due: dueSchema.nullable(),
          decider: account.nullable(),
          confirmed: z.record(houseKey, z.strictObject({ words: z.string() })),
        }),
      ),
    ),
  }),
  gateEvents: z.strictObject({
    ...{ id: z.int().min(1), stageId: houseKey, stageName: text(100), gateName: text(100), act: z.enum(GATE_ACTS) },
    ...{ accountId: account, at: moment, word: text(8000), conditions: json(z.array(heldSchema)) },
  }),
  gateActions: z.strictObject({
    ...{ id: uuid, eventId: z.int().min(1), position: z.int(), owner: text(200) },
  }),
  values: z.strictObject({ fieldId: houseKey, value: ownValueSchema }),
  says: z.strictObject({ rating: z.enum(RATINGS), note: text(1000), saidBy: account, saidAt: moment }),
  closings: z.strictObject({ closedBy: account, closedAt: moment, word: text(1000), revision: maybe(revision) }),
};

const matterId = text(120).regex(/^[0-9a-f-]{36}(:|$)/, "must be an id, or that of the project with the id of a risk");
const chance = z.number().min(0).max(1);
const registers = {
  matters: z.strictObject({
    ...{ id: matterId, kind: z.enum(MATTER_KINDS), riskId: maybe(idSchema), title: text(200) },
    ...{ state: z.enum(MATTER_STATES), severity: maybe(text(64)), owner: maybe(text(64)), raisedBy: maybe(account) },
    ...{ raisedOn: maybe(dateSchema), due: maybe(dateSchema), closedOn: maybe(dateSchema), removed: z.boolean() },
    content: json(
      z.strictObject({
        text: maybe(text(8000)),
        strategy: maybe(z.enum(STRATEGIES).nullable()),
        response: maybe(text(8000)),
        residual: maybe(residualSchema.nullable()),
        proximity: maybe(dateSchema.nullable()),
        values: maybe(z.record(z.string(), ownValueSchema)),
        closedBy: maybe(uuid.nullable()),
      }),
    ),
  }),
  matterTies: z.strictObject({ matterId, position: z.int(), about: z.enum(TIE_PLACES), aboutId: text(80) }),
  matterEvents: z.strictObject({
    ...{ matterId, at: moment, accountId: account, field: text(40), was: text(20_000), value: text(20_000) },
  }),
  matterStandings: z.strictObject({ number, matterId, chance, severity: maybe(text(64)) }),
};

const approvals = {
  history: z.strictObject({
    ...{ revision, at: moment, accountId: account, label: text(200), changes, inverse: maybe(changes) },
    ...{ were: maybe(changes), touched: json(z.array(z.string())), through: z.enum(THROUGH) },
    ...{ undoes: maybe(revision), listId: maybe(text(36)) },
  }),
  /** Baselines as they were frozen, with the links and date wishes of then: the digest is made from this text. */
  baselines: z.strictObject({ number: z.int().min(1), content: json(z.looseObject({})), digest }),
  baselinePlans: z.strictObject({ number: z.int().min(1), content: json(bundleSchema) }),
  approvals: z.strictObject({
    ...{ id: uuid, state: z.enum(["asked", "approved", "sentBack", "replaced"]), askedBy: account, askedAt: moment },
    ...{ word: text(8000), agreedOn: maybe(dateSchema), decidedBy: maybe(account), decidedAt: maybe(moment) },
    ...{ reason: maybe(text(8000)), baseline: maybe(z.int().min(1)), revision: maybe(revision) },
  }),
  approvalPlans: z.strictObject({ approvalId: uuid, content: json(bundleSchema) }),
  whatIfs: z.strictObject({
    ...{
      id: uuid,
      name: text(200),
      baseRevision: z.int().min(0),
      version: z.int().min(0),
      madeBy: account,
      madeAt: moment,
    },
    state: z.enum(["open", "asked", "approved", "sentBack", "kept", "dropped"]),
    ...{ request: maybe(z.int().min(1)), reason: maybe(text(8000)), draw: maybe(json(drawSchema)) },
    ...{ askedBy: maybe(account), askedAt: maybe(moment), decidedBy: maybe(account), decidedAt: maybe(moment) },
    ...{ word: maybe(text(8000)), baseline: maybe(z.int().min(1)), whole: z.boolean() },
  }),
  whatIfLists: z.strictObject({
    ...{ whatIfId: uuid, version: z.int().min(1), at: moment, accountId: account, label: text(200), changes },
    ...{ inverse: maybe(changes), undoes: maybe(z.int().min(1)), listId: maybe(text(36)) },
  }),
  reserves: z.strictObject({
    ...{ id: uuid, kind: z.enum(["contingency", "management"]), amountMinor: amountMinorSchema, reason: text(1000) },
    ...{ madeBy: account, madeAt: moment, request: maybe(z.int().min(1)) },
  }),
};

const ofPeriod = { number, edition, dataDate: dateSchema };
const issued = { ...ofPeriod, issuedBy: account, issuedAt: moment };
const periods = {
  issuedPeriods: z.strictObject({ ...issued, revision, summary: json(summarySchema) }),
  issuedPlans: z.strictObject({ number, edition, content: json(bundleSchema) }),
  issuedReports: z.strictObject({ ...issued, content: json(reportContentSchema), digest }),
  said: z.strictObject({
    ...{ number, aspect: z.enum(ASPECTS), version: z.int(), rating: maybe(z.enum(RATINGS)), reason: text(500) },
    ...{ text: maybe(text(20_000)), saidBy: account, saidAt: moment },
  }),
  recipients: z.strictObject({ recipient: text(320), kind: z.enum(["account", "address"]) }),
  locks: z.strictObject({
    ...{ id: uuid, number, dataDate: dateSchema, lockedBy: account, lockedAt: moment, reopenedBy: maybe(account) },
    ...{ reopenedAt: maybe(moment), reason: maybe(text(1000)), word: maybe(text(1000)) },
  }),
  marks: z.strictObject({ number, step: text(40), words: text(8000), markedBy: account, markedAt: moment }),
  reports: z.strictObject({
    ...{ id: uuid, activityId: text(64), personId: text(64), date: dateSchema, leaveUntil: maybe(dateSchema) },
    ...{
      minutes: maybe(z.int()),
      percent: maybe(z.number()),
      remainingMinutes: maybe(z.int()),
      stage: maybe(text(4000)),
    },
    ...{ note: text(1000), state: z.enum(["submitted", "posted", "returned", "withdrawn"]), sentAt: moment },
    ...{ decidedBy: maybe(account), word: maybe(text(1000)) },
  }),
};

const place = { about: z.enum(TALK_PLACES), aboutId: text(120) };
const said = {
  documents: z.strictObject({
    ...{ id: uuid, about: z.enum(DOCUMENT_PLACES), aboutId: text(80), name: text(200), link: maybe(webLinkSchema) },
    ...{ accountId: account, at: moment, removedBy: maybe(account), removedAt: maybe(moment) },
  }),
  /** Files as they came: of documents, and of those that go with what was said, by the id of either. */
  documentVersions: z.strictObject({
    ...{ documentId: uuid, number: z.int().min(1), file: text(255), type: text(100), size: z.int().min(0), digest },
    ...{ contentId: uuid, accountId: account, at: moment },
  }),
  documentParts: z.strictObject({ contentId: uuid, part: z.int().min(0), at: moment, bytes }),
  talk: z.strictObject({
    ...{ id: uuid, ...place, accountId: account, at: moment, text: text(LONGEST_MESSAGE), byMail: z.boolean() },
    named: z.array(z.strictObject({ id: account, as: text(200) })),
    was: json(z.array(z.strictObject({ text: z.string(), until: z.string() }))),
    removedBy: maybe(account),
  }),
  talkFiles: z.strictObject({ id: uuid, messageId: uuid, ...place, accountId: account, at: moment }),
  followings: z.strictObject({
    ...{ accountId: account, ...place, follows: z.boolean(), ended: z.boolean(), pinned: z.boolean() },
  }),
};

/** What a row of each table of a record holds. */
export const RECORD_ROWS = { ...houseTables, ...ofProject, ...registers, ...approvals, ...periods, ...said };
export type RecordTable = keyof typeof RECORD_ROWS;
export const RECORD_TABLES = Object.keys(RECORD_ROWS) as readonly RecordTable[];

/** Which field of a row is an id of its own, by which others name it; and which say the key where there is none. */
export const RECORD_KEYS: Readonly<Record<RecordTable, readonly string[]>> = {
  accounts: ["id"],
  periods: ["number"],
  lifeCycles: ["id"],
  projectFields: ["id"],
  charters: [],
  charterLog: ["at", "what"],
  lives: [],
  gateEvents: ["id"],
  gateActions: ["id"],
  values: ["fieldId"],
  says: [],
  closings: [],
  matters: ["id"],
  matterTies: ["matterId", "position"],
  matterEvents: ["matterId", "at", "field", "value"],
  matterStandings: ["matterId", "number"],
  history: ["revision"],
  baselines: ["number"],
  baselinePlans: ["number"],
  approvals: ["id"],
  approvalPlans: ["approvalId"],
  whatIfs: ["id"],
  whatIfLists: ["whatIfId", "version"],
  reserves: ["id"],
  issuedPeriods: ["number", "edition"],
  issuedPlans: ["number", "edition"],
  issuedReports: ["number", "edition"],
  said: ["number", "aspect"],
  recipients: ["recipient"],
  locks: ["id"],
  marks: ["number", "step"],
  reports: ["id"],
  documents: ["id"],
  documentVersions: ["documentId", "number"],
  documentParts: ["contentId", "part"],
  talk: ["id"],
  talkFiles: ["id"],
  followings: ["accountId", "about", "aboutId"],
};

const lists = Object.fromEntries(
  Object.entries(RECORD_ROWS).map(([table, row]) => [table, z.array(row).optional()]),
) as unknown as { [T in RecordTable]: z.ZodOptional<z.ZodArray<(typeof RECORD_ROWS)[T]>> };

/** What a project keeps besides its plan. */
export const recordSchema = z.strictObject({
  project: z.strictObject({
    ...{ id: uuid, revision, manager: account },
    /** Files that are too large together to go along, and so stayed: how many, and how many bytes. */
    filesLeftOut: maybe(z.strictObject({ count: z.int(), bytes: z.int() })),
  }),
  ...lists,
});
export type ProjectRecord = z.infer<typeof recordSchema>;
