import type { WatchQuestion } from "@chronometra/contract";
import { callForBytes } from "../shared/session/api.ts";
import { FILE_TYPES, fileName, saveFile, type FileForm } from "../shared/files/saveFile.ts";

/** Fetches the answer to a question as a file and hands it to the browser. */
export async function exportAnswer(question: WatchQuestion, form: FileForm, name: string): Promise<void> {
  const bytes = await callForBytes("POST /api/watch/export/:form", { params: { form }, body: question });
  saveFile(fileName(name, form), bytes, FILE_TYPES[form]);
}
