import type { WatchQuestion } from "@chronometra/contract";
import { callForBytes } from "../shared/session/api.ts";
import { saveFile } from "../shared/table/saveFile.ts";

const TYPES = {
  csv: "text/csv",
  xlsx: "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
  ics: "text/calendar",
} as const;

/** Fetches the answer to a question as a file and hands it to the browser. */
export async function exportAnswer(question: WatchQuestion, form: keyof typeof TYPES, name: string): Promise<void> {
  const bytes = await callForBytes("POST /api/watch/export/:form", { params: { form }, body: question });
  saveFile(`${name.toLowerCase().replace(/\W+/g, "-").replace(/^-|-$/g, "")}.${form}`, bytes, TYPES[form]);
}
