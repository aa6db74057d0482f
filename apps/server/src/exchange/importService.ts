import { randomUUID } from "node:crypto";
import { MessageChannel } from "node:worker_threads";
import { OWN_COLUMN, type ImportAnswers, type ImportView, type Me, type ProjectRecord } from "@chronometra/contract";
import { LessThan, type DataSource, type EntityManager } from "typeorm";
import { managersOf } from "../access/accounts.ts";
import { createProject, planWith, type NewProject } from "../begin/createProject.ts";
import { inTransaction } from "../shared/database.ts";
import { todayOf } from "../shared/clock.ts";
import { Failure, orNotFound } from "../shared/failure.ts";
import { inReader, ReaderEnded } from "../shared/workers.ts";
import { COLUMN_WORDS, SHEET_WORDS } from "./match/headingWords.ts";
import type { SheetName } from "./sheets/columns.ts";
import { knownInWords, knownRows } from "./knownRows.ts";
import { sweepExports } from "./exportedPlans.ts";
import { ImportDraftEntity, KnownHeadingEntity } from "./importEntities.ts";
import { plainHeading, type KnownHeadings } from "./match/matchSheets.ts";
import type { SourceFile } from "./sheets/readFiles.ts";
import { dropFiles, type Received } from "./receiveFiles.ts";
import { houseFacts } from "./record/houseFacts.ts";
import { wholeFile, type Known, type Understood } from "./understand.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import type { AnswerJob, CellsJob, JobResult, ReadJob } from "./worker.ts";

const WORKER = "exchange/worker";

/** The cells of files, read away from the thread that answers calls. */
export async function readCells(files: readonly Received[]): Promise<SourceFile> {
  const result = await inReader<{ cells: SourceFile } | { unreadable: string }>(WORKER, {
    job: "cells",
    files,
  } satisfies CellsJob).catch((error: unknown) => {
    throw error instanceof ReaderEnded
      ? new Failure("invalid", `${files[0]?.name ?? "The file"}: ${error.message}.`)
      : error;
  });
  if ("unreadable" in result) throw new Failure("invalid", result.unreadable);
  return result.cells;
}

/** Files that are being read now, so that dropping one stops its worker. */
const reading = new Map<string, AbortController>();

/** Columns in words; those that people write come first. */
const columnsInWords = (table: SheetName): ImportView["tables"][number]["columns"] => [
  ...Object.entries(COLUMN_WORDS[table]).map(([column, words]) => ({ column, words })),
  ...(table === "activities" ? [{ column: OWN_COLUMN, words: "A field of its own" }] : []),
];

const TABLES: ImportView["tables"] = Object.entries(SHEET_WORDS).map(([table, words]) => ({
  table,
  words,
  columns: columnsInWords(table as SheetName),
}));

async function knownHeadings(database: DataSource): Promise<KnownHeadings> {
  const known: Record<string, Record<string, string>> = {};
  for (const { tableName, heading, columnName } of await database.getRepository(KnownHeadingEntity).find())
    (known[tableName] ??= {})[heading] = columnName;
  return known;
}

const knownTo = async (database: DataSource, me: Me): Promise<Known> => ({
  ...(await knownRows(database, me, todayOf(me))),
  headings: await knownHeadings(database),
  installation: await houseFacts(database.manager, me),
});

/** Takes a file in: it is read in a worker, and looked at under the draft's id meanwhile. */
export async function beginImport(database: DataSource, me: Me, uploads: readonly Received[]): Promise<ImportView> {
  if (uploads.length === 0) throw new Failure("invalid", "No file came with the call; select one.");
  const fileName = (
    uploads.length === 1 ? uploads[0]!.name : `${uploads[0]!.name} and ${uploads.length - 1} more`
  ).slice(0, 300);
  const draft = database.getRepository(ImportDraftEntity).create({
    id: randomUUID(),
    accountId: me.id,
    createdAt: new Date(),
    fileName,
    state: "reading",
    progress: 0,
    step: "waiting for its turn",
    source: null,
    answers: "{}",
    aliveAt: String(Date.now()),
    understood: null,
    storedAs: null,
  });
  await database.getRepository(ImportDraftEntity).insert(draft);
  void readInBackground(database, me, draft.id, uploads, fileName);
  return viewOf(draft);
}

const ALIVE_MILLISECONDS = 10_000;
/** A file whose reader has said nothing for so long lost it: its server was stopped. */
const CUT_OFF_MILLISECONDS = 60_000;
const DAY_MILLISECONDS = 24 * 60 * 60_000;
/** What nobody stored or came back to is dropped after so long. */
const KEPT_MILLISECONDS = 14 * DAY_MILLISECONDS;

/** Says of files whose reading was cut off that it was, and drops those that nobody came back to. */
export async function sweepDrafts(database: DataSource, now = Date.now()): Promise<void> {
  const drafts = database.getRepository(ImportDraftEntity);
  await sweepExports(database, now);
  await drafts.delete({ createdAt: LessThan(new Date(now - KEPT_MILLISECONDS)) });
  await drafts.update(
    { state: "reading", aliveAt: LessThan(String(now - CUT_OFF_MILLISECONDS)) },
    { state: "failed", progress: 1, step: CUT_OFF },
  );
}

const CUT_OFF = "The server was stopped while it read this file. Nothing was stored; bring the file again.";

/** What a draft is told while its file is read. */
function telling(database: DataSource, id: string) {
  const drafts = database.getRepository(ImportDraftEntity);
  const tell = (what: Partial<ImportDraftEntity>): Promise<unknown> => drafts.update({ id, state: "reading" }, what);
  return {
    alive: () => tell({ aliveAt: String(Date.now()) }),
    progress: ({ share, step }: { share: number; step: string }) => tell({ progress: share, step: step.slice(0, 200) }),
    failed: (step: string) => drafts.update({ id }, { state: "failed", progress: 1, step: step.slice(0, 200) }),
    ready: (read: Pick<ImportDraftEntity, "source" | "understood">) =>
      drafts.update({ id }, { state: "ready", progress: 1, step: "read", ...read }),
  };
}

async function readInBackground(
  database: DataSource,
  me: Me,
  id: string,
  files: readonly Received[],
  fileName: string,
): Promise<void> {
  const tell = telling(database, id);
  const abort = new AbortController();
  reading.set(id, abort);
  const beating = setInterval(() => void tell.alive().catch(() => undefined), ALIVE_MILLISECONDS);
  const drop = (): Promise<void> => dropFiles(files).catch(() => undefined);
  const { port1, port2 } = new MessageChannel();
  port1.on("message", (far: { share: number; step: string }) => void tell.progress(far).catch(() => undefined));
  try {
    const known = await knownTo(database, me);
    const job: ReadJob = { job: "read", files, answers: {}, known, fileName, port: port2 };
    // Gone before the draft says that it is ready, so that whoever sees it ready sees no file either.
    const result = await inReader<JobResult>(WORKER, job, { signal: abort.signal, transferList: [port2] }).finally(
      drop,
    );
    if ("unreadable" in result) await tell.failed(result.unreadable);
    else await tell.ready({ source: result.source, understood: result.understood });
  } catch (error) {
    if (!abort.signal.aborted)
      await tell.failed(`could not be read: ${(error as Error).message}`).catch(() => undefined);
  } finally {
    await drop();
    clearInterval(beating);
    reading.delete(id);
    port1.close();
  }
}

async function ownDraft(database: DataSource, me: Me, id: string): Promise<ImportDraftEntity> {
  return orNotFound(
    await database.getRepository(ImportDraftEntity).findOneBy({ id, accountId: me.id }),
    "file of yours being imported",
  );
}

/** How far a file of someone's has come; one whose reading was cut off says so. */
export async function viewImport(database: DataSource, me: Me, id: string): Promise<ImportView> {
  const draft = await ownDraft(database, me, id);
  if (draft.state === "reading" && Number(draft.aliveAt) < Date.now() - CUT_OFF_MILLISECONDS) {
    Object.assign(draft, { state: "failed", progress: 1, step: CUT_OFF });
    await database
      .getRepository(ImportDraftEntity)
      .update({ id, state: "reading" }, { state: "failed", progress: 1, step: CUT_OFF });
  }
  return viewOf(draft, draft.state === "ready" ? await knownInWords(database, me) : NOBODY_KNOWN);
}

const NOBODY_KNOWN: ImportView["known"] = { calendars: [], people: [], managers: [] };

function viewOf(draft: ImportDraftEntity, known: ImportView["known"] = NOBODY_KNOWN): ImportView {
  const understood = draft.understood === null ? null : (JSON.parse(draft.understood) as Understood);
  const nothing = {
    kind: null,
    sheets: [],
    dateQuestion: null,
    numberQuestion: null,
    rowKeysQuestion: null,
    datesQuestion: null,
    peopleQuestion: [],
    project: null,
    manager: null,
    counts: [],
    preview: [],
    problems: [],
    errors: 0,
  };
  return {
    id: draft.id,
    fileName: draft.fileName,
    state: draft.state,
    progress: draft.progress,
    step: draft.step,
    ...(understood?.view ?? nothing),
    storable: draft.state === "ready" && understood !== null && understood.bundle !== null,
    storedAs: draft.storedAs,
    answers: JSON.parse(draft.answers) as ImportAnswers,
    tables: TABLES,
    known,
  };
}

/** Takes answers, remembers headings matched by hand, and reads the file again in their light. */
export async function answerImport(
  database: DataSource,
  me: Me,
  id: string,
  answers: ImportAnswers,
): Promise<ImportView> {
  const draft = await ownDraft(database, me, id);
  if (draft.state !== "ready" || draft.source === null)
    throw new Failure("conflict", "This file is not ready for answers.");
  const job: AnswerJob = {
    job: "answer",
    source: draft.source,
    answers,
    known: await knownTo(database, me),
    fileName: draft.fileName,
  };
  const result = await inReader<JobResult>(WORKER, job);
  if ("unreadable" in result) throw new Failure("invalid", result.unreadable);
  const changed = { answers: JSON.stringify(answers), understood: result.understood };
  await database.getRepository(ImportDraftEntity).update({ id }, changed);
  Object.assign(draft, changed);
  await rememberHeadings(database, answers, JSON.parse(result.understood) as Understood);
  return viewOf(draft, await knownInWords(database, me));
}

async function rememberHeadings(database: DataSource, answers: ImportAnswers, understood: Understood): Promise<void> {
  const rows = understood.view.sheets.flatMap((sheet) =>
    Object.entries(answers.sheets?.[sheet.name]?.columns ?? {}).flatMap(([heading, columnName]) =>
      sheet.table === null || columnName === "" || plainHeading(heading) === ""
        ? []
        : [{ tableName: sheet.table, heading: plainHeading(heading).slice(0, 200), columnName }],
    ),
  );
  if (rows.length > 0) await database.getRepository(KnownHeadingEntity).upsert(rows, ["tableName", "heading"]);
}

/** Stores a project with what it kept where it comes from. */
export type ArriveRecord = (
  manager: EntityManager,
  me: Me,
  wanted: NewProject,
  record: ProjectRecord,
) => Promise<ProjectEntity>;

/** Where a new project is put. */
export interface Placing {
  readonly programmeId: string | null;
  readonly managerId: string;
}

/** Stores what was understood as a new project, all or nothing. */
export async function storeImport(
  database: DataSource,
  me: Me,
  id: string,
  { programmeId, managerId }: Placing,
  arrive: ArriveRecord,
): Promise<string> {
  if (managerId !== me.id && !(await managersOf(database)).some((each) => each.id === managerId))
    throw new Failure("invalid", "Whoever is to manage it is no project manager and no controller.");
  return inTransaction(database, async (manager) => {
    const draft = orNotFound(
      await manager
        .getRepository(ImportDraftEntity)
        .findOne({ where: { id, accountId: me.id }, lock: { mode: "pessimistic_write" } }),
      "file of yours being imported",
    );
    if (draft.state === "stored") throw new Failure("conflict", "This file has been stored already.");
    const understood = draft.understood === null ? null : (JSON.parse(draft.understood) as Understood);
    if (understood?.bundle == null)
      throw new Failure("invalid", "The file has errors; nothing can be stored until they are mended.");
    const { bundle, beside, whole } = understood;
    const file =
      whole === undefined
        ? null
        : wholeFile((JSON.parse(draft.source!) as { text: string }).text, JSON.parse(draft.answers) as ImportAnswers);
    const wanted: NewProject = {
      plan: file === null ? planWith(bundle, beside) : file.plan,
      programmeId,
      managerId,
      label: `Imported ${draft.fileName}`.slice(0, 200),
    };
    const project = await (file !== null && whole?.bringsRecord === true
      ? arrive(manager, me, wanted, file.record)
      : createProject(manager, me, wanted));
    await manager
      .getRepository(ImportDraftEntity)
      .update({ id }, { state: "stored", storedAs: project.id, source: null, understood: null });
    return project.id;
  });
}

/** Drops a file; one that is being read is stopped. */
export async function dropImport(database: DataSource, me: Me, id: string): Promise<void> {
  const draft = await ownDraft(database, me, id);
  reading.get(draft.id)?.abort();
  await database.getRepository(ImportDraftEntity).delete({ id: draft.id });
}
