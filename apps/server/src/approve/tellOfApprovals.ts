import type { Me } from "@chronometra/contract";
import { In, type EntityManager } from "typeorm";
import { AccountEntity } from "../access/accountEntity.ts";
import { deciders } from "../access/accounts.ts";
import type { ProjectEntity } from "../project/projectEntity.ts";
import { settleNotices } from "../tell/notices.ts";
import type { Telling } from "../tell/post.ts";

/** What waits for a decision: an approval of a plan, or a change request. */
export interface Request {
  /** By what it is settled, as `approval <id>`. */
  readonly about: string;
  /** As "the plan", or "change request 3, Second crew". */
  readonly what: string;
}

const tell = async (
  manager: EntityManager,
  post: Telling,
  me: Me,
  project: ProjectEntity,
  {
    to,
    kind,
    what,
    does,
    word,
    about,
    at,
  }: Request & {
    to: readonly string[];
    kind: "asked" | "decided";
    does: string;
    word: string;
    at: Date;
  },
): Promise<void> => {
  const ids = [...new Set(to)].filter((id) => id !== me.id);
  const accounts = await manager.getRepository(AccountEntity).findBy({ id: In(ids) });
  await post.put(
    manager,
    accounts.map((account) => ({
      ...{ to: account, from: me, project: project.id, kind },
      ...(kind === "asked" ? { about, act: "Decide" } : {}),
      subject: `${project.code}: ${what} ${does}`,
      body: [`${project.head.name}: ${me.name} ${kind === "asked" ? "asks for a decision" : "decided"}.`, word]
        .filter((part) => part !== "")
        .join("\n\n"),
      link: kind === "asked" ? "/approvals" : `/projects/${project.id}/approvals`,
    })),
    at,
  );
};

/** Tells whoever decides that something waits for them. */
export async function tellAsked(
  manager: EntityManager,
  post: Telling,
  me: Me,
  project: ProjectEntity,
  { word, at, ...request }: Request & { readonly word: string; readonly at: Date },
): Promise<void> {
  const to = (await deciders(manager, project)).map(({ id }) => id);
  await tell(manager, post, me, project, { ...request, to, kind: "asked", does: "waits for a decision", word, at });
}

/** Tells whoever asked, and the project's manager, what was decided; it waits for nobody any more. */
export async function tellDecided(
  manager: EntityManager,
  post: Telling,
  me: Me,
  project: ProjectEntity,
  {
    askedBy,
    approved,
    ...request
  }: Request & {
    readonly askedBy: string | null;
    readonly approved: boolean;
    readonly word: string;
    readonly at: Date;
  },
): Promise<void> {
  await settleNotices(manager, request.about, request.at);
  const to = [...(askedBy === null ? [] : [askedBy]), project.managerId];
  await tell(manager, post, me, project, {
    ...request,
    to,
    kind: "decided",
    does: approved ? "is approved" : "is sent back",
  });
}
