import { createHash } from "node:crypto";
import { RECORD_KEYS, RECORD_TABLES, recordSchema, type ProjectRecord, type RecordTable } from "@chronometra/contract";
import { canonicalText, valueAt, wordsOf, type Plan, type Problem } from "@chronometra/core";

type Row = Readonly<Record<string, unknown>>;
type Say = (table: RecordTable | "project", row: string, field: string, message: string) => void;

/** What of the rows names an account, by table. */
const ACCOUNTS = ["accountId", "madeBy", "askedBy", "decidedBy", "saidBy", "closedBy", "raisedBy", "issuedBy"].concat([
  ...["lockedBy", "reopenedBy", "markedBy", "removedBy"],
]);

/** Which field of a table's rows names a row of another. */
const NAMES: readonly (readonly [RecordTable, string, ...RecordTable[]])[] = [
  ["lives", "lifeCycleId", "lifeCycles"],
  ["gateActions", "eventId", "gateEvents"],
  ["gateActions", "id", "matters"],
  ["values", "fieldId", "projectFields"],
  ["matterTies", "matterId", "matters"],
  ["matterEvents", "matterId", "matters"],
  ["approvalPlans", "approvalId", "approvals"],
  ["whatIfLists", "whatIfId", "whatIfs"],
  ["documentVersions", "documentId", "documents", "talkFiles"],
  ["talkFiles", "messageId", "talk"],
];

/** Tables of which a project has one row at most. */
const ONE_ROW = RECORD_TABLES.filter((table) => RECORD_KEYS[table].length === 0);

const digestOf = (text: string): string => createHash("sha256").update(text).digest("hex");
const rowsOf = (record: ProjectRecord, table: RecordTable): readonly Row[] => record[table] ?? [];
const callOf = (table: RecordTable, row: Row, i: number): string =>
  RECORD_KEYS[table].map((field) => String(row[field])).join(" / ") || `#${i + 1}`;

/** A record whose shape is right holds each row once, and rows name what is there. */
function checkNames(record: ProjectRecord, say: Say): void {
  for (const table of ONE_ROW)
    if (rowsOf(record, table).length > 1) say(table, "", "", "a project has one row of these at most");
  for (const table of RECORD_TABLES) {
    const seen = new Set<string>();
    rowsOf(record, table).forEach((row, i) => {
      const key = callOf(table, row, i);
      if (seen.has(key)) say(table, key, RECORD_KEYS[table][0] ?? "", "stands more than once; each stands there once");
      seen.add(key);
    });
  }
  for (const [table, field, ...others] of NAMES) {
    const known = new Set(others.flatMap((other) => rowsOf(record, other).map((row) => row[RECORD_KEYS[other][0]!])));
    rowsOf(record, table).forEach((row, i) => {
      if (!known.has(row[field])) say(table, callOf(table, row, i), field, `is not among ${others.join(" or ")}`);
    });
  }
}

function checkPeople(record: ProjectRecord, say: Say): void {
  const known = new Set(rowsOf(record, "accounts").map(({ id }) => id));
  if (!known.has(record.project.manager)) say("project", "", "manager", "is not among accounts");
  for (const table of RECORD_TABLES)
    rowsOf(record, table).forEach((row, i) => {
      for (const field of ACCOUNTS)
        if (row[field] !== undefined && !known.has(row[field]))
          say(table, callOf(table, row, i), field, "is not among accounts");
    });
}

const WITH_PERIOD = [
  "matterStandings",
  "issuedPeriods",
  "issuedPlans",
  "issuedReports",
  "said",
  "locks",
  "marks",
] as const;

function checkPeriods(record: ProjectRecord, say: Say): void {
  const known = new Set(rowsOf(record, "periods").map(({ number }) => number));
  for (const table of WITH_PERIOD)
    rowsOf(record, table).forEach((row, i) => {
      if (!known.has(row["number"])) say(table, callOf(table, row, i), "number", "is not among periods");
    });
}

/** The history goes from the first revision to that of the plan, and nothing speaks of a later one. */
function checkRevisions(record: ProjectRecord, say: Say): void {
  const last = record.project.revision;
  const history = rowsOf(record, "history").map(({ revision }) => revision as number);
  if (history.length !== last || history.some((revision, i) => revision !== i + 1))
    say("history", "", "revision", `goes from 1 to ${last}, one list of changes each, in this order`);
  for (const table of ["approvals", "issuedPeriods", "closings", "whatIfs"] as const)
    rowsOf(record, table).forEach((row, i) => {
      const field = table === "whatIfs" ? "baseRevision" : "revision";
      if (((row[field] as number | undefined) ?? 0) > last)
        say(table, callOf(table, row, i), field, `is later than the plan, which is of revision ${last}`);
    });
}

/** What was frozen or issued is word for word what it was: by its digest, and by the baselines of the plan. */
function checkDigests(record: ProjectRecord, plan: Plan, say: Say): void {
  const CHANGED = "is not what its digest was made from; it was changed since";
  for (const { number, content, digest } of record.baselines ?? []) {
    // Keys that are numbers change their places when JSON is read.
    if (digestOf(canonicalText(content)) !== digest) say("baselines", String(number), "content", CHANGED);
    const frozen = plan.baselines.get(String(number));
    if (frozen === undefined || canonicalText(frozen) !== canonicalText(content["baseline"] ?? null))
      say("baselines", String(number), "content", "is not the baseline of that number in the plan");
  }
  if ((record.baselines ?? []).length !== plan.baselines.size)
    say("baselines", "", "", "stand there for each baseline of the plan");
  for (const { number, edition, content, digest } of record.issuedReports ?? [])
    if (digestOf(JSON.stringify(content)) !== digest)
      say("issuedReports", `${number} / ${edition}`, "content", CHANGED);
}

/** Files are the bytes that they were. */
function checkFiles(record: ProjectRecord, say: Say): void {
  const parts = new Map<string, Buffer[]>();
  for (const { contentId, part, bytes } of record.documentParts ?? [])
    (parts.get(contentId) ?? parts.set(contentId, []).get(contentId)!)[part] = Buffer.from(bytes, "base64");
  for (const { documentId, number, contentId, size, digest } of record.documentVersions ?? []) {
    const bytes = Buffer.concat(parts.get(contentId)?.filter((part) => part !== undefined) ?? []);
    if (bytes.length !== size || createHash("sha256").update(bytes).digest("hex") !== digest)
      say("documentVersions", `${documentId} / ${number}`, "digest", "is not that of the bytes among documentParts");
  }
}

/** Links of a report lead to places of the installation, and nowhere else. */
function checkLinks(record: ProjectRecord, say: Say): void {
  for (const { number, edition, content } of record.issuedReports ?? []) {
    const look = (value: unknown): boolean => {
      if (typeof value !== "object" || value === null) return true;
      const { link } = value as { link?: unknown };
      return (link === undefined || /^\/(?![/\\])/.test(String(link))) && Object.values(value).every(look);
    };
    if (!look(content))
      say("issuedReports", `${number} / ${edition}`, "content", "has a link that leads out of the installation");
  }
}

/**
 * Takes anything for what a project keeps besides its plan, and checks it whole: shape, references, revisions, digests.
 * @returns the record, or every problem with its table, row and field
 */
export function checkRecord(
  input: unknown,
  plan: Plan,
): { readonly record?: ProjectRecord; readonly problems: readonly Problem[] } {
  const problems: Problem[] = [];
  const parsed = recordSchema.safeParse(input);
  if (!parsed.success) {
    for (const issue of parsed.error.issues) {
      const [table, at, ...rest] = issue.path;
      const row = valueAt(input, [...(table === undefined ? [] : [table]), ...(at === undefined ? [] : [at])]);
      const isRow = typeof at === "number";
      const called = isRow ? callOf(table as RecordTable, (row ?? {}) as Row, at) : "";
      const field = [...(isRow ? rest : [...(at === undefined ? [] : [at]), ...rest])].join(".");
      problems.push({
        ...{ table: "record", row: `${String(table ?? "")} ${called}`.trim(), field },
        message: wordsOf(issue, valueAt(input, issue.path)),
      });
    }
    return { problems };
  }
  // As it was read, and not as it was parsed: digests are made of the text as it is.
  const record = input as ProjectRecord;
  const say: Say = (table, row, field, message) =>
    void problems.push({ table: "record", row: `${table} ${row}`.trim(), field, message });
  checkNames(record, say);
  checkPeople(record, say);
  checkPeriods(record, say);
  checkRevisions(record, say);
  checkDigests(record, plan, say);
  checkFiles(record, say);
  checkLinks(record, say);
  return problems.length > 0 ? { problems } : { record, problems };
}
