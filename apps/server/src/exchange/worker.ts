import type { MessagePort } from "node:worker_threads";
import type { ImportAnswers } from "@chronometra/contract";
import { loadFiles, type Received } from "./receiveFiles.ts";
import { Unreadable } from "./sheets/cells.ts";
import { readFiles, type SourceFile } from "./sheets/readFiles.ts";
import { understand, type Known, type Understood } from "./understand.ts";

export interface ReadJob {
  readonly job: "read";
  readonly files: readonly Received[];
  readonly answers: ImportAnswers;
  readonly known: Known;
  readonly fileName: string;
  readonly port: MessagePort;
}

export interface AnswerJob {
  readonly job: "answer";
  readonly source: string;
  readonly answers: ImportAnswers;
  readonly known: Known;
  readonly fileName: string;
}

/** Reads the cells of files, and nothing of what they say. */
export interface CellsJob {
  readonly job: "cells";
  readonly files: readonly Received[];
}

/** What came of a job, as text ready to be stored; or why the file cannot be read. */
export type JobResult = { readonly source: string; readonly understood: string } | { readonly unreadable: string };

const asText = (source: SourceFile, understood: Understood): JobResult => ({
  source: JSON.stringify(source),
  understood: JSON.stringify(understood),
});

/** Reads and understands a file away from the thread that answers calls. */
export default async function run(
  job: ReadJob | AnswerJob | CellsJob,
): Promise<JobResult | { readonly cells: SourceFile }> {
  if (job.job === "cells") {
    try {
      return { cells: await readFiles(await loadFiles(job.files)) };
    } catch (error) {
      if (error instanceof Unreadable) return { unreadable: error.message };
      throw error;
    }
  }
  if (job.job === "answer") {
    const source = JSON.parse(job.source) as SourceFile;
    return asText(source, understand(source, job.answers, job.known, job.fileName));
  }
  try {
    job.port.postMessage({ share: 0.1, step: "reading the file" });
    const source = await readFiles(await loadFiles(job.files), (share, step) => job.port.postMessage({ share, step }));
    job.port.postMessage({ share: 0.6, step: "checking what it says" });
    return asText(source, understand(source, job.answers, job.known, job.fileName));
  } catch (error) {
    if (error instanceof Unreadable) return { unreadable: error.message };
    throw error;
  } finally {
    job.port.close();
  }
}
