import type { PlanBundle } from "@chronometra/core";
import { move } from "piscina";
import { writeCsvZip, writeWorkbook } from "./sheets/writeFiles.ts";

const WRITE = {
  json: (bundle: PlanBundle) => Buffer.from(JSON.stringify(bundle, null, 1)),
  xlsx: writeWorkbook,
  csv: writeCsvZip,
};
export type Written = keyof typeof WRITE;

interface Job {
  readonly form: Written;
  readonly bundle: PlanBundle;
  readonly revision: number;
}

/** Writes a plan as a file, away from the thread that answers calls. */
export default async function run({ form, bundle, revision }: Job): Promise<Uint8Array> {
  return move(Uint8Array.from(await WRITE[form](bundle, revision))) as unknown as Uint8Array;
}
