import type { BodyOf, Me, ReportContent, ReportRecipients } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import { In, type DataSource, type EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { everyAccount } from "../access/accounts.ts";
import { inTransaction } from "../shared/database.ts";
import { Failure } from "../shared/failure.ts";
import type { Attached, Message, Post } from "../tell/post.ts";
import { issuedReport } from "./issued.ts";
import { reportFile } from "./paper/reportFile.ts";
import { ReportRecipientEntity } from "./reportEntities.ts";
import { findSubject, mayWrite, seesSubject, type Subject } from "./subjects.ts";

/** Those who may read the reports of something in the application, by name. */
async function lookersAt(manager: DataSource | EntityManager, subject: Subject): Promise<Me[]> {
  return (await everyAccount(manager)).filter((each) => seesSubject(each, subject));
}

/** Who gets the reports of something, and who could. */
export async function recipientsOf(database: DataSource, me: Me, subject: Subject): Promise<ReportRecipients> {
  const [rows, accounts] = await Promise.all([
    database.getRepository(ReportRecipientEntity).findBy({ subjectId: subject.id }),
    lookersAt(database, subject),
  ]);
  const chosen = new Set(rows.flatMap(({ kind, recipient }) => (kind === "account" ? [recipient] : [])));
  const lookers = accounts.map(({ id, name }) => ({ id, name }));
  return {
    mayEdit: mayWrite(me, subject),
    accounts: lookers.filter(({ id }) => chosen.has(id)),
    addresses: rows.flatMap(({ kind, recipient }) => (kind === "address" ? [recipient] : [])).sort(),
    choices: lookers,
  };
}

/** Accounts that may be sent reports. Throws a Failure where one may not look, or is none. */
async function assertMayLook(manager: EntityManager, subject: Subject, ids: readonly string[]): Promise<void> {
  const wanted = [...new Set(ids)];
  const found = await manager.getRepository(AccountEntity).findBy({ id: In(wanted) });
  if (found.length < wanted.length) throw new Failure("invalid", "There is no such account; load the page again.");
  const lookers = new Set((await lookersAt(manager, subject)).map(({ id }) => id));
  const blind = found.filter(({ id }) => !lookers.has(id)).map(({ name }) => name);
  if (blind.length > 0)
    throw new Failure("invalid", `${blind.join(", ")} may not look into this, and so gets no reports of it.`);
}

/** Adds and removes who gets the reports of something; of several who do so at once none undoes the other's. */
export async function writeRecipients(
  database: DataSource,
  subject: Subject,
  { add = {}, remove = {} }: BodyOf<"PUT /api/status-reports/:of/recipients">,
): Promise<void> {
  const rowsOf = ({ accounts = [], addresses = [] }: typeof add): Omit<ReportRecipientEntity, "subjectId">[] => [
    ...accounts.map((recipient) => ({ recipient, kind: "account" as const })),
    ...addresses.map((address) => ({ recipient: address.toLowerCase(), kind: "address" as const })),
  ];
  await inTransaction(database, async (manager) => {
    await assertMayLook(manager, subject, add.accounts ?? []);
    const recipients = manager.getRepository(ReportRecipientEntity);
    const [added, removed] = [rowsOf(add), rowsOf(remove)];
    if (removed.length > 0)
      await recipients.delete({ subjectId: subject.id, recipient: In(removed.map(({ recipient }) => recipient)) });
    if (added.length > 0)
      await recipients
        .createQueryBuilder()
        .insert()
        .values(added.map((row) => ({ subjectId: subject.id, ...row })))
        .orIgnore()
        .execute();
  });
}

/** What a message is sent with: a report, named by its subject, number and edition. */
const attachmentOf = (subjectId: string, number: number, edition: number): string =>
  `report ${subjectId} ${number} ${edition}`;

/** Sends a report to whoever is to have it, in the transaction that issues it: a link, and the PDF by mail. */
export async function tellIssued(
  manager: EntityManager,
  post: Post,
  content: ReportContent,
  { subjectId, edition }: { readonly subjectId: string; readonly edition: number },
): Promise<void> {
  const rows = await manager.getRepository(ReportRecipientEntity).findBy({ subjectId });
  if (rows.length === 0) return;
  const ids = rows.flatMap(({ kind, recipient }) => (kind === "account" ? [recipient] : []));
  // Whoever may not look into it any more is not told of it.
  const lookers = new Set((await lookersAt(manager, await findSubject(manager, subjectId))).map(({ id }) => id));
  const accounts = (await manager.getRepository(AccountEntity).findBy({ id: In(ids) })).filter(({ id }) =>
    lookers.has(id),
  );
  const { title, period, dataDate, of } = content;
  const again = edition === 1 ? "" : `, edition ${edition}`;
  const page = of === "project" ? `/projects/${subjectId}/report` : `/reports/${subjectId}`;
  const message = {
    subject: `${title}: report of period ${period}${again}`,
    body: `The report of period ${period} of ${title} is issued${again}, data date ${dateWords(dataDate)}.`,
    kind: "period" as const,
    project: of === "project" ? subjectId : undefined,
    act: "Read it",
    link: `${page}/${period}?edition=${edition}`,
    attachment: attachmentOf(subjectId, period, edition),
  };
  const addresses = rows.flatMap(({ kind, recipient }) => (kind === "address" ? [recipient] : []));
  await post.put(manager, [
    ...accounts.map((to): Message => ({ to, ...message })),
    // Who has no account cannot follow a link into the application.
    ...addresses.map((address): Message => ({ to: { address }, ...message, link: undefined })),
  ]);
}

/** The file that a message is sent with, made when it leaves. Throws where there is none of that name. */
export async function reportAttached(database: DataSource, name: string): Promise<Attached> {
  const [, subjectId, number, edition] = name.split(" ");
  const { content, line } = await issuedReport(database, subjectId!, Number(number), Number(edition));
  const { signal } = new AbortController();
  const { bytes, type, name: filename } = await reportFile(content, line, { form: "pdf", paper: "A4", signal });
  return { filename, content: bytes, contentType: type };
}
