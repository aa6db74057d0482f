import type { RequestHandler } from "express";
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from "prom-client";
import type { DataSource } from "typeorm";
import { poolsNow } from "../shared/workers.ts";

/** What answers of a second and of a minute are told apart by, in seconds. */
const BUCKETS = [0.01, 0.025, 0.05, 0.1, 0.15, 0.25, 0.5, 1, 2.5, 5, 10, 30, 60];

/** Counters that the database keeps of itself, by its name of them. */
const OF_DATABASE = {
  Innodb_row_lock_waits: ["row_lock_waits_total", "Times that a row was waited for which another call was writing"],
  Innodb_row_lock_time: ["row_lock_milliseconds_total", "Milliseconds that rows were waited for"],
  Slow_queries: ["slow_queries_total", "Questions that the database counts as slow"],
  Threads_connected: ["connections_open", "Connections that the database has open, of all servers"],
} as const;

let ofProcess: Registry | undefined;

/** Processor, memory, garbage and lag of the event loop of this process, however many apps it holds. */
function processRegistry(): Registry {
  if (ofProcess === undefined) {
    ofProcess = new Registry();
    collectDefaultMetrics({ register: ofProcess });
  }
  return ofProcess;
}

/** What of a pool of connections is read; its driver counts them without saying so in its types. */
interface Counted {
  readonly _allConnections: { readonly length: number };
  readonly _freeConnections: { readonly length: number };
  readonly _connectionQueue: { readonly length: number };
}

/** How a server fares, in the text format that monitoring systems read (OpenMetrics; Prometheus exposition 0.0.4). */
export class Metrics {
  private readonly registry = new Registry();
  private readonly calls = new Histogram({
    name: "chronometra_call_seconds",
    help: "How long calls took, by call and status",
    labelNames: ["call", "status"],
    buckets: BUCKETS,
    registers: [this.registry],
  });
  private readonly failed = new Counter({
    name: "chronometra_calls_failed_total",
    help: "Calls that ended in a failure that nobody expected",
    registers: [this.registry],
  });

  /** @param pools the pools of connections, by what they are for */
  constructor(
    private readonly database: DataSource,
    pools: Readonly<Record<string, DataSource>>,
  ) {
    this.gauge("chronometra_connections", "Connections to the database by pool and state", ["pool", "state"], (set) => {
      for (const [pool, { driver }] of Object.entries(pools)) {
        const counted = (driver as unknown as { pool?: Counted }).pool;
        if (counted === undefined) continue;
        const free = counted._freeConnections.length;
        set({ pool, state: "used" }, counted._allConnections.length - free);
        set({ pool, state: "free" }, free);
        set({ pool, state: "waited for" }, counted._connectionQueue.length);
      }
    });
    this.gauge("chronometra_threads", "Worker threads by pool", ["pool"], (set) => {
      for (const { pool, threads } of poolsNow()) set({ pool }, threads);
    });
    this.gauge("chronometra_work_waiting", "Work that waits for a worker thread, by pool", ["pool"], (set) => {
      for (const { pool, waiting } of poolsNow()) set({ pool }, waiting);
    });
  }

  private gauge(
    name: string,
    help: string,
    labelNames: string[],
    read: (set: (labels: Record<string, string>, value: number) => void) => void,
  ): void {
    new Gauge({
      name,
      help,
      labelNames,
      registers: [this.registry],
      collect() {
        this.reset();
        read((labels, value) => this.set(labels, value));
      },
    });
  }

  /** Times every call; what lasts as long as someone listens is none that takes long. */
  readonly timing: RequestHandler = (request, response, next) => {
    const from = performance.now();
    response.on("finish", () => {
      const path = (request.route as { path?: unknown } | undefined)?.path;
      if (response.getHeader("content-type") === "text/event-stream") return;
      const call = typeof path === "string" ? `${request.method} ${path}` : "page";
      this.calls.observe({ call, status: String(response.statusCode) }, (performance.now() - from) / 1000);
      if (response.statusCode === 500) this.failed.inc();
    });
    next();
  };

  /** All of it as text. */
  async text(): Promise<string> {
    const own = await this.registry.metrics();
    return `${own}\n${await this.ofDatabase()}\n${await processRegistry().metrics()}`;
  }

  private async ofDatabase(): Promise<string> {
    const names = Object.keys(OF_DATABASE) as (keyof typeof OF_DATABASE)[];
    const rows = (await this.database.query("show global status where variable_name in (?)", [names])) as {
      Variable_name: keyof typeof OF_DATABASE;
      Value: string;
    }[];
    return rows
      .map(({ Variable_name, Value }) => {
        const [name, help] = OF_DATABASE[Variable_name];
        const full = `chronometra_database_${name}`;
        const type = name.endsWith("_total") ? "counter" : "gauge";
        return `# HELP ${full} ${help}\n# TYPE ${full} ${type}\n${full} ${Number(Value)}\n`;
      })
      .join("\n");
  }
}
