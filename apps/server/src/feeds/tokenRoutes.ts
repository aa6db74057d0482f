import { randomUUID } from "node:crypto";
import { TOKEN_PURPOSES } from "@chronometra/contract";
import { dateWords } from "@chronometra/core";
import { groupNames, presentGroup } from "../project/groupTree.ts";
import { inTransaction } from "../shared/database.ts";
import { noteHouse, type NotedField } from "../shared/noted/noteHouse.ts";
import { serve, type Serving } from "../access/serve.ts";
import { endToken, listTokens, makeToken, purposesOf, type ApiTokenEntity } from "../access/tokens.ts";

/** What of a token is noted: all but the token itself. */
const fieldsOf = (token: Pick<ApiTokenEntity, "purposes" | "lastDay">, group = "the whole house"): NotedField[] => [
  {
    field: "may",
    words: purposesOf(token)
      .map((each) => TOKEN_PURPOSES[each])
      .join(", "),
  },
  { field: "of", words: group },
  { field: "until", words: token.lastDay === null ? "it is revoked" : dateWords(token.lastDay) },
];

/** Tokens of other systems: made, listed, ended. */
export function tokenRoutes(serving: Serving): void {
  serve(serving, "GET /api/tokens", ({ database }) => listTokens(database));

  serve(serving, "POST /api/tokens", ({ database, me, body }) =>
    inTransaction(database, async (manager) => {
      const { row, token } = await makeToken(manager, { id: randomUUID(), madeBy: me.id, ...body });
      const fields = fieldsOf(row, presentGroup(row.groupId, await groupNames(manager))?.name);
      await noteHouse(manager, me, { about: "system", subject: `token of ${row.name}` }, null, fields);
      return { id: row.id, token };
    }),
  );

  serve(serving, "DELETE /api/tokens/:token", ({ database, me, params }) =>
    inTransaction(database, async (manager) => {
      const row = await endToken(manager, params["token"]!);
      const fields = fieldsOf(row, presentGroup(row.groupId, await groupNames(manager))?.name);
      await noteHouse(manager, me, { about: "system", subject: `token of ${row.name}` }, fields, null);
      return { ok: true as const };
    }),
  );
}
