import type { DataSource } from "typeorm";
import { computePlansIn } from "../plan/held/overPlan.ts";

/**
 * Does work while no thread for plans answers within a transaction: what is worked out only once projects are locked
 * fails.
 */
export async function withoutThreadsUnderLock<T>(database: DataSource, work: () => Promise<T>): Promise<T> {
  const transaction = database.transaction.bind(database) as (...given: unknown[]) => Promise<unknown>;
  Object.assign(database, {
    transaction: async (...given: unknown[]) => {
      computePlansIn("plan/noSuchFile");
      try {
        return await transaction(...given);
      } finally {
        computePlansIn("start/planWork");
      }
    },
  });
  try {
    return await work();
  } finally {
    delete (database as Partial<DataSource>).transaction;
  }
}
