import { DATE_ORDERS, MATTER_KINDS } from "@chronometra/contract";
import type { Request } from "express";
import { z } from "zod";
import { serve, type Serving } from "../access/serve.ts";
import { receiveFiles } from "../exchange/receiveFiles.ts";
import { findSeen } from "../project/reach.ts";
import { Failure } from "../shared/failure.ts";
import { readList } from "./readList.ts";

const columnsSchema = z.record(z.string().max(400), z.string().max(80));
const saidSchema = z.object({
  kind: z.enum(MATTER_KINDS).nullable().default(null),
  project: z.string().max(36).nullable().default(null),
  dateOrder: z.enum(DATE_ORDERS).optional(),
  columns: z
    .string()
    .max(20_000)
    .default("{}")
    .transform((text, context) => {
      try {
        return columnsSchema.parse(JSON.parse(text));
      } catch {
        context.addIssue("columns are JSON: what each heading is taken for");
        return z.NEVER;
      }
    }),
});

function saidIn({ query }: Request): z.infer<typeof saidSchema> {
  const said = saidSchema.safeParse(query);
  if (said.success) return said.data;
  throw new Failure("invalid", `What is said of the list cannot be read: ${z.prettifyError(said.error)}.`);
}

/** Lists that are brought into the registers. */
export function bringRoutes(serving: Serving): void {
  serve(serving, "POST /api/matters/read", async ({ database, me, request, response }) => {
    const { kind, project, dateOrder, columns } = saidIn(request);
    if (project !== null) await findSeen(database, me, project);
    const files = await receiveFiles(request, response);
    return readList(database, me, files, { kind, project, order: dateOrder, columns });
  });
}
