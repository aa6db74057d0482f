import type { DataSource } from "typeorm";
import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "./serve.ts";
import { PreferenceEntity } from "./preferenceEntity.ts";

const NAME = /^[\w.-]{1,60}$/;

function assertName(name: string): void {
  if (!NAME.test(name))
    throw new Failure("invalid", "A preference is named by 1 to 60 letters, digits, dots and dashes.");
}

/** How someone likes the pages, as they left them: texts by the names that pages gave them. */
export async function preferencesOf(database: DataSource, account: string): Promise<Record<string, string>> {
  const kept = await database.getRepository(PreferenceEntity).findBy({ accountId: account });
  return Object.fromEntries(kept.map(({ name, value }) => [name, value]));
}

export function preferenceRoutes(serving: Serving): void {
  serve(serving, "PUT /api/preferences/:name", async ({ database, me, params, body }) => {
    const name = params["name"]!;
    assertName(name);
    const kept = database.getRepository(PreferenceEntity);
    if (body.value === null) await kept.delete({ accountId: me.id, name });
    else await kept.upsert({ accountId: me.id, name, value: body.value }, ["accountId", "name"]);
    return { ok: true as const };
  });
}
