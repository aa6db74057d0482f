import type { ProjectCycle } from "@chronometra/contract";
import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { call } from "../shared/api.ts";
import { countWords } from "../shared/words.ts";

interface Progress {
  readonly done: number;
  readonly of: number;
  readonly running: boolean;
  readonly refused: readonly { readonly code: string; readonly why: string }[];
}

/** Locks the open period project by project: each whole or not at all, so that it can be stopped, or go on after a fault. */
export function LockAll({ projects, number }: { projects: readonly ProjectCycle[]; number: number }) {
  const client = useQueryClient();
  const [progress, setProgress] = useState<Progress | null>(null);
  const stopped = useRef(false);
  const open = projects.filter(({ takesPart, locked }) => takesPart && !locked);
  const lock = async (): Promise<void> => {
    stopped.current = false;
    const refused: { code: string; why: string }[] = [];
    let done = 0;
    for (const { id, code } of open) {
      if (stopped.current) break;
      setProgress({ done, of: open.length, running: true, refused });
      try {
        await call("POST /api/projects/:project/lock", { params: { project: id } });
        done++;
      } catch (error) {
        refused.push({ code, why: (error as Error).message });
      }
    }
    setProgress({ done, of: open.length, running: false, refused: [...refused] });
    await client.invalidateQueries();
  };
  if (open.length === 0 && progress === null) return null;
  return (
    <div>
      {progress?.running === true ? (
        <div className="flex items-center gap-3" role="status">
          <progress className="progress w-48" value={progress.done} max={progress.of} aria-label="Locking" />
          <span>{progress.done} of {progress.of} locked</span>
          <button type="button" className="btn btn-sm" onClick={() => { stopped.current = true; }}>Stop</button>
        </div>
      ) : (
        open.length > 0 && <button type="button" className="btn btn-primary btn-sm" onClick={() => void lock()}>Lock period {number} for {countWords(open.length, "project", "projects")}</button>
      )}
      {progress !== null && !progress.running && (
        <div className="text-sm" role="status">
          {countWords(progress.done, "project", "projects")} locked.
          {progress.refused.length > 0 && <ul>{progress.refused.map(({ code, why }) => <li key={code} className="adverse">{code}: {why}</li>)}</ul>}
        </div>
      )}
    </div>
  );
}
