import { MATTER_KIND_WORDS, type MatterKind, type Me, type NoticeKind } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import { In, type EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { settleNotices } from "../tell/notices.ts";
import type { Message, Telling } from "../tell/post.ts";

/** What people are told of a matter. */
interface Told {
  readonly id: string;
  readonly kind: MatterKind;
  readonly title: string;
  /** Its project as it is called in short; `null` of a group's or the house's. */
  readonly code: string | null;
  readonly due: string | null;
  readonly projectId: string | null;
}

/** What is asked of the owner of a matter. */
const askedOf = (matter: string): string => `matter ${matter}`;

/** Notes that nothing is asked of the owner of a matter any more: it is settled, removed, or another's. */
export const askNoMore = (manager: EntityManager, matter: string): Promise<void> =>
  settleNotices(manager, askedOf(matter));

/** Tells people of a matter, whoever does it left out; they are accounts, or the persons that accounts are. */
async function tell(
  manager: EntityManager,
  post: Telling,
  me: Me,
  matter: Told,
  {
    to,
    kind,
    subject,
    words,
  }: {
    to: readonly (string | null)[];
    kind: NoticeKind;
    subject: string;
    words: readonly string[];
  },
): Promise<void> {
  const ids = [...new Set(to)].flatMap((id) => (id === null ? [] : [id]));
  if (ids.length === 0) return;
  const accounts = await manager.getRepository(AccountEntity).find({ where: [{ id: In(ids) }, { personId: In(ids) }] });
  const { code, title, id, projectId } = matter;
  await post.put(
    manager,
    accounts
      .filter((account) => account.id !== me.id)
      .map((account): Message => ({
        to: account,
        kind,
        from: me,
        project: projectId ?? undefined,
        ...(kind === "asked" ? { about: askedOf(id), act: "See to it" } : {}),
        subject: `${code === null ? "" : `${code}: `}${subject}: ${title}`.slice(0, 200),
        body: words.filter((line) => line !== "").join("\n\n"),
        link: `/registers?all=1&matter=${encodeURIComponent(id)}`,
      })),
  );
}

const dueWords = ({ due }: Told): string => (due === null ? "" : `Due on ${dateWords(due)}.`);

/** Tells whoever owns a matter from now on. */
export const tellOwner = (
  manager: EntityManager,
  post: Telling,
  me: Me,
  matter: Told,
  owner: string | null,
): Promise<void> =>
  tell(manager, post, me, matter, {
    to: [owner],
    kind: "asked",
    subject: `${MATTER_KIND_WORDS[matter.kind][0]} for you`,
    words: [`${me.name} asks you to see to: ${matter.title}`, dueWords(matter)],
  });

/** Tells whoever raised a matter that it is settled. */
export const tellSettled = (
  manager: EntityManager,
  post: Telling,
  me: Me,
  matter: Told,
  raisedBy: string | null,
  state: string,
): Promise<void> =>
  tell(manager, post, me, matter, {
    to: [raisedBy],
    kind: "decided",
    subject: state,
    words: [`${me.name} says: ${state}.`],
  });

/** Tells those concerned that a risk struck, and what has become of it. */
export const tellStruck = (
  manager: EntityManager,
  post: Telling,
  me: Me,
  issue: Told,
  { to, risk, woken }: { to: readonly (string | null)[]; risk: string; woken: readonly string[] },
): Promise<void> =>
  tell(manager, post, me, issue, {
    to,
    kind: "risk",
    subject: "a risk struck",
    words: [
      `The risk “${risk}” struck, says ${me.name}; it is the issue “${issue.title}” now.`,
      woken.length === 0 ? "" : `Woken: ${woken.join(", ")}.`,
      dueWords(issue),
    ],
  });
