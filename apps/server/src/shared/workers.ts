import { availableParallelism } from "node:os";
import { Piscina } from "piscina";

/** Where the files of threads lie, how they end, and what they are started with. */
interface Source {
  readonly folder: string;
  readonly ending: string;
  readonly execArgv: string[];
}

// Run from its source, a worker needs what the server itself was started with to read TypeScript; built, it takes over
// nothing: a reader of TypeScript would rewrite what is built, and slow it down.
const FROM_SOURCE = ["--conditions=development", "--import", "tsx"];
const OWN = new URL("../", import.meta.url).href;
let source: Source = import.meta.url.endsWith(".ts")
  ? { folder: OWN, ending: "ts", execArgv: FROM_SOURCE }
  : { folder: OWN, ending: "js", execArgv: [] };

/** Has threads run what was built into a folder, whatever the server runs: they begin in a third of the time. */
export function runBuilt(folder: URL): void {
  source = { folder: folder.href, ending: "js", execArgv: [] };
}
type Options = NonNullable<Parameters<Piscina["run"]>[1]>;

let pool: Piscina | undefined;
/** A pool apart for what people wait for, files and why dates moved: no simulation keeps them from it. */
let awaited: Piscina | undefined;
/** A pool apart for what strangers send: it may take so much memory and time, and is ended then. */
let readers: Piscina | undefined;
const READER_MEGABYTES = 1024;
const READER_MILLISECONDS = 120_000;

/**
 * By how much long work stands back behind calls and short work, as the system counts it: where processors are few, it
 * waits.
 */
const BEHIND = 10;

/**
 * A pool of threads. One that fails after its work was done or given up, or answers what nobody asks any more, is told
 * of and replaced: a pool that nobody listens to would take the whole server down with it.
 */
function poolOf(options: ConstructorParameters<typeof Piscina>[0]): Piscina {
  const made = new Piscina({ ...options, execArgv: source.execArgv });
  made.on("error", (error: Error) => process.emitWarning(error));
  return made;
}

const fileOf = (file: string): string => new URL(`${file}.${source.ending}`, source.folder).href;

/** What a reader was ended for. */
export class ReaderEnded extends Error {}

/**
 * Reads what someone sent, away from the thread that answers calls and within limits of memory and time.
 * @throws {ReaderEnded} where it took more of either than it may
 */
export async function inReader<T>(
  file: string,
  job: unknown,
  {
    signal,
    transferList,
    milliseconds = READER_MILLISECONDS,
    megabytes = READER_MEGABYTES,
  }: {
    signal?: AbortSignal;
    transferList?: NonNullable<Options["transferList"]>;
    milliseconds?: number;
    megabytes?: number;
  } = {},
): Promise<T> {
  readers ??= poolOf({
    maxThreads: 2,
    idleTimeout: 20_000,
    resourceLimits: { maxOldGenerationSizeMb: megabytes },
    niceIncrement: BEHIND,
  });
  const late = AbortSignal.timeout(milliseconds);
  try {
    return (await readers.run(job, {
      filename: fileOf(file),
      signal: signal === undefined ? late : AbortSignal.any([signal, late]),
      ...(transferList === undefined ? {} : { transferList }),
    })) as T;
  } catch (error) {
    if (late.aborted && signal?.aborted !== true)
      throw new ReaderEnded(`it took longer than ${Math.round(milliseconds / 1000)} s to read, and was given up`);
    if ((error as { code?: string }).code === "ERR_WORKER_OUT_OF_MEMORY")
      throw new ReaderEnded(`it needs more than ${megabytes} MB of memory to read, and was given up`);
    throw error;
  }
}

/** Does what someone waits for, away from calls and from work that takes long; as `inWorker`. */
export function inAwaited<T>(file: string, job: unknown, options: Omit<Options, "filename"> = {}): Promise<T> {
  awaited ??= poolOf({ maxThreads: 2, idleTimeout: 20_000, niceIncrement: BEHIND });
  return awaited.run(job, { ...options, filename: fileOf(file) }) as Promise<T>;
}

/** Writes a file as `inAwaited`; gives its bytes. */
export async function inWriter(file: string, job: unknown, options: Omit<Options, "filename"> = {}): Promise<Buffer> {
  const bytes = await inAwaited<Uint8Array>(file, job, options);
  return Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
}

/**
 * Does long work away from the thread that answers calls.
 * @param file the worker's file below this server's source, without its ending, such as `exchange/worker`
 */
export function inWorker<T>(file: string, job: unknown, options: Omit<Options, "filename"> = {}): Promise<T> {
  pool ??= poolOf({ maxThreads: 2, idleTimeout: 20_000, niceIncrement: BEHIND });
  return pool.run(job, { ...options, filename: fileOf(file) }) as Promise<T>;
}

const THREADS = Math.min(4, Math.max(2, availableParallelism()));
const IDLE_MILLISECONDS = 60_000;

/** A pool of one thread each for short work; long work has a pool of its own, so that nobody waits for it. */
let threads: Piscina[] = [];

const placeOf = (name: string): number =>
  [...name].reduce((sum, sign) => (sum * 31 + sign.codePointAt(0)!) >>> 0, 0) % THREADS;

/**
 * Does short work on the thread to which its name falls: what it leaves there is found by the next of that name, while
 * the thread lives.
 * @param file as for `inWorker`
 */
export function onThread<T>(name: string, file: string, job: unknown): Promise<T> {
  const place = placeOf(name);
  const thread = (threads[place] ??= poolOf({ minThreads: 0, maxThreads: 1, idleTimeout: IDLE_MILLISECONDS }));
  return thread.run(job, { filename: fileOf(file) }) as Promise<T>;
}

/** What each pool does now: how many threads it has, and how much waits for one. */
export const poolsNow = (): { readonly pool: string; readonly threads: number; readonly waiting: number }[] =>
  Object.entries({ long: [pool], readers: [readers], awaited: [awaited], plans: threads }).map(([name, pools]) => ({
    pool: name,
    threads: pools.reduce((sum, each) => sum + (each?.threads.length ?? 0), 0),
    waiting: pools.reduce((sum, each) => sum + (each?.queueSize ?? 0), 0),
  }));

/** Ends the worker threads, when the server stops. */
export async function stopWorkers(): Promise<void> {
  await Promise.all([pool, readers, awaited, ...threads].map((each) => each?.destroy()));
  pool = readers = awaited = undefined;
  threads = [];
}
