import type { ImportView } from "@chronometra/contract";
import type { Caller } from "./testWorld.ts";

/** Where a project is put that is brought in. */
interface Put {
  readonly programme: string | null;
  readonly manager?: string;
}

/** Brings a file, waits until it is read, and gives what was understood. */
export async function bringFile(who: Caller, file: Buffer | string, name = "plan.json"): Promise<ImportView> {
  const begun = await who.send("post", "/api/imports").attach("file", Buffer.from(file), name);
  for (let view = begun.body as ImportView; ; view = (await who.get(`/api/imports/${view.id}`)).body as ImportView) {
    if (view.state !== "reading") return view;
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

/** Takes a project from one installation to another, as the file that a person would take; gives its id there. */
export async function carryProject(from: Caller, to: Caller, project: string, put: Put): Promise<string> {
  const { text } = await from.get(`/api/projects/${project}/export/json`);
  const view = await bringFile(to, text);
  const errors = view.problems.filter(({ level }) => level === "error");
  if (!view.storable) throw new Error(`${view.step} ${JSON.stringify(errors.slice(0, 5))}`);
  const stored = await to.send("post", `/api/imports/${view.id}/store`, put);
  if (stored.status !== 200) throw new Error(stored.text);
  return (stored.body as { project: string }).project;
}
