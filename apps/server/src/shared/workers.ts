import { Piscina } from "piscina";

// Run from its source, a worker needs what the server itself was started with to read TypeScript.
const fromSource = import.meta.url.endsWith(".ts");
let pool: Piscina | undefined;

type Options = NonNullable<Parameters<Piscina["run"]>[1]>;

/**
 * Does heavy work away from the thread that answers calls.
 * @param file the worker's file below this server's source, without its ending, such as `exchange/worker`
 */
export function inWorker<T>(file: string, job: unknown, options: Omit<Options, "filename"> = {}): Promise<T> {
  pool ??= new Piscina({ maxThreads: 2, idleTimeout: 20_000, ...(fromSource ? { execArgv: ["--conditions=development", "--import", "tsx"] } : {}) });
  return pool.run(job, { ...options, filename: new URL(`../${file}.${fromSource ? "ts" : "js"}`, import.meta.url).href }) as Promise<T>;
}

/** Ends the worker threads, when the server stops. */
export async function stopWorkers(): Promise<void> {
  await pool?.destroy();
  pool = undefined;
}
