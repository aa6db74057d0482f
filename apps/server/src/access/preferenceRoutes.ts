import { Failure } from "../shared/failure.ts";
import { serve, type Serving } from "../shared/http.ts";
import { PreferenceEntity } from "./preferenceEntity.ts";

const NAME = /^[\w.-]{1,60}$/;

function assertName(name: string): void {
  if (!NAME.test(name)) throw new Failure("invalid", "A preference is named by 1 to 60 letters, digits, dots and dashes.");
}

export function preferenceRoutes(serving: Serving): void {
  serve(serving, "GET /api/preferences", async ({ database, me }) => {
    const kept = await database.getRepository(PreferenceEntity).findBy({ accountId: me.id });
    return Object.fromEntries(kept.map(({ name, value }) => [name, value]));
  });

  serve(serving, "PUT /api/preferences/:name", async ({ database, me, params, body }) => {
    const name = params["name"]!;
    assertName(name);
    const kept = database.getRepository(PreferenceEntity);
    if (body.value === null) await kept.delete({ accountId: me.id, name });
    else await kept.upsert({ accountId: me.id, name, value: body.value }, ["accountId", "name"]);
    return { ok: true as const };
  });
}
