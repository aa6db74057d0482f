import type { PlanBundle, PlanFile } from "@chronometra/core";
import { move } from "piscina";
import { writeCsvZip, writeWorkbook } from "./sheets/writeFiles.ts";

const asJson = (bundle: PlanBundle | PlanFile): Uint8Array => Buffer.from(JSON.stringify(bundle, null, 1));

const WRITE = {
  json: asJson,
  json1: asJson,
  xlsx: writeWorkbook,
  csv: writeCsvZip,
};
export type Written = keyof typeof WRITE;

interface Job {
  readonly form: Written;
  /** Of version 2 for `json` alone. */
  readonly bundle: PlanBundle | PlanFile;
  readonly revision: number;
}

/** Writes a plan as a file, away from the thread that answers calls. */
export default async function run({ form, bundle, revision }: Job): Promise<Uint8Array> {
  return move(Uint8Array.from(await WRITE[form](bundle as PlanBundle, revision))) as unknown as Uint8Array;
}
