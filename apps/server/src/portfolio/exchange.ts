import type { Me } from "@chronometra/contract";
import { dateWords, exchangeSchema, type Exchange } from "@chronometra/core";
import type { DataSource } from "typeorm";
import { openPeriod } from "../cycle/cycleService.ts";
import { SettingEntity } from "../cycle/cycleEntities.ts";
import { todayOf } from "../shared/clock.ts";
import { inTransaction } from "../shared/database.ts";
import { noteHouse, type NotedField } from "../shared/noted/noteHouse.ts";

/** The name of the setting that holds the table of rates. */
export const EXCHANGE = "exchange";

/** The table as it is kept as text; `null` where none was given. */
export const readExchange = (text: string | null | undefined): Exchange | null =>
  text == null ? null : exchangeSchema.parse(JSON.parse(text));

/** The table of rates. */
export const exchangeOf = async (database: DataSource): Promise<Exchange | null> =>
  readExchange((await database.getRepository(SettingEntity).findOneBy({ name: EXCHANGE }))?.value);

/** The table of rates, and the data date of sums over projects: the open period's, else today's. */
export async function exchangeNow(database: DataSource, me: Me): Promise<{ exchange: Exchange | null; on: string }> {
  const [exchange, period] = await Promise.all([exchangeOf(database), openPeriod(database)]);
  return { exchange, on: period?.dataDate ?? todayOf(me) };
}

/** The table as it is noted. */
const exchangeFields = (exchange: Exchange | null): NotedField[] =>
  exchange === null
    ? []
    : [
        { field: "summed in", words: exchange.currency },
        ...exchange.rates.map(({ currency, from, rate }) => ({
          field: `1 ${currency} from ${dateWords(from)}`,
          words: `${rate} ${exchange.currency}`,
        })),
      ];

/** Keeps the table, its rates in the order of their currencies and days. */
export const setExchange = (database: DataSource, me: Me, exchange: Exchange | null): Promise<void> =>
  inTransaction(database, async (manager) => {
    const settings = manager.getRepository(SettingEntity);
    const was = readExchange((await settings.findOneBy({ name: EXCHANGE }))?.value);
    const rates = [...(exchange?.rates ?? [])].sort((a, b) =>
      `${a.currency} ${a.from}` < `${b.currency} ${b.from}` ? -1 : 1,
    );
    if (exchange === null) await settings.delete({ name: EXCHANGE });
    else await settings.upsert({ name: EXCHANGE, value: JSON.stringify({ ...exchange, rates }) }, ["name"]);
    const subject = "exchange rates";
    await noteHouse(manager, me, { about: "exchange", subject }, exchangeFields(was), exchangeFields(exchange));
  });
