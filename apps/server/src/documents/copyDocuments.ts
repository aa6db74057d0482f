import { randomUUID } from "node:crypto";
import type { Me } from "@chronometra/contract";
import { In, IsNull, type EntityManager } from "typeorm";
import { DocumentEntity, DocumentVersionEntity } from "./documentEntities.ts";
import type { Place } from "./documents.ts";

interface Copied {
  readonly from: string;
  readonly to: string;
  /** Whether what a document is on is in the other project too. */
  readonly isThere: (place: Place) => boolean;
}

/** Forgets the documents of what is removed whole. */
export async function forgetDocuments(manager: EntityManager, of: string): Promise<void> {
  const [documents, versions] = [manager.getRepository(DocumentEntity), manager.getRepository(DocumentVersionEntity)];
  const found = await documents.findBy({ projectId: of });
  await versions.delete({ documentId: In(found.map(({ id }) => id)) });
  await documents.delete({ projectId: of });
}

/**
 * Gives a project, or a template, the documents of another one, each as it is now: the newest file, whose bytes both
 * have, or the link.
 */
export async function copyDocuments(manager: EntityManager, me: Me, { from, to, isThere }: Copied): Promise<void> {
  const [documents, versions] = [manager.getRepository(DocumentEntity), manager.getRepository(DocumentVersionEntity)];
  const found = (await documents.findBy({ projectId: from, removedAt: IsNull() })).filter(isThere);
  const newest = new Map<string, DocumentVersionEntity>();
  for (const version of await versions.find({
    where: { documentId: In(found.map(({ id }) => id)) },
    order: { number: "ASC" },
  }))
    newest.set(version.documentId, version);
  const mine = { accountId: me.id, at: new Date() };
  for (const document of found) {
    const id = randomUUID();
    const version = newest.get(document.id);
    await documents.insert({ ...document, ...mine, id, projectId: to });
    if (version !== undefined) await versions.insert({ ...version, ...mine, documentId: id, number: 1 });
  }
}
