import { z } from "zod";
import { dateSchema } from "../plan/schema.ts";
import { divRound, wholes } from "./exact.ts";

const currencySchema = z.string().regex(/^[A-Z]{3}$/, "must be a currency code of ISO 4217, three capital letters");

/** What one unit of a currency is worth in the group's currency, from a day on until the next rate. */
export const exchangeRateSchema = z.strictObject({
  currency: currencySchema,
  from: dateSchema,
  rate: z.number().gt(0, "a rate above 0").max(1e9),
});
export type ExchangeRate = z.infer<typeof exchangeRateSchema>;

/** The dated table by which amounts of several currencies are summed, and the group's currency that sums are in. */
export const exchangeSchema = z.strictObject({
  currency: currencySchema,
  minorDigits: z.int().min(0).max(4),
  rates: z.array(exchangeRateSchema).max(2000),
});
export type Exchange = z.infer<typeof exchangeSchema>;

/** What an amount in minor units is in. */
export interface Money {
  readonly currency: string;
  readonly minorDigits: number;
}

/** How amounts of several kinds come together in one. */
export interface CommonMoney {
  /** What the sum is in; `null` where there is none. */
  readonly money: Money | null;
  /** Currencies without a rate on the day, or all that were met where there is no group's currency. */
  readonly missing: readonly string[];
  /** The rates that were used. */
  readonly used: readonly ExchangeRate[];
  /** An amount in the common money, rounded half away from zero. Only to be asked where there is one. */
  readonly convert: (minor: number, from: Money) => number;
}

/** The rate of a currency in force on a day: the latest from that day or before. */
export function rateOn(exchange: Exchange, currency: string, on: string): ExchangeRate | null {
  let found: ExchangeRate | null = null;
  for (const rate of exchange.rates) {
    if (rate.currency === currency && rate.from <= on && (found === null || rate.from >= found.from)) found = rate;
  }
  return found;
}

/** An amount scaled by a rate and to other minor digits, formed in whole numbers before the one division. */
function converted(minor: number, rate: number, fromDigits: number, toDigits: number): number {
  const [part, whole] = wholes([rate, 1]) as [number, number];
  const top = BigInt(minor) * BigInt(part) * 10n ** BigInt(toDigits);
  return divRound(top, BigInt(whole) * 10n ** BigInt(fromDigits));
}

/**
 * How amounts come together (calculations.md section 8): as they are where they are all of one currency; else each at the
 * rate in force on a day, in the group's currency; else not at all, and it says which rate is missing. Amounts of one
 * currency written with fewer digits are taken with the most.
 * @param kinds what the amounts are in, in any order and number
 * @param exchange the dated table; `null` where none was given
 * @param on the data date of the sum, `YYYY-MM-DD`
 */
export function commonMoney(kinds: readonly Money[], exchange: Exchange | null, on: string): CommonMoney {
  const currencies = [...new Set(kinds.map(({ currency }) => currency))].sort();
  const none = (missing: readonly string[]): CommonMoney => ({ money: null, missing, used: [], convert: () => 0 });
  if (currencies.length === 0) return none([]);
  if (currencies.length === 1) {
    const money = { currency: currencies[0]!, minorDigits: Math.max(...kinds.map(({ minorDigits }) => minorDigits)) };
    return {
      money,
      missing: [],
      used: [],
      convert: (minor, from) => converted(minor, 1, from.minorDigits, money.minorDigits),
    };
  }
  if (exchange === null) return none(currencies);
  const rates = new Map(
    currencies.map((currency) => [currency, currency === exchange.currency ? null : rateOn(exchange, currency, on)]),
  );
  const missing = currencies.filter((currency) => currency !== exchange.currency && rates.get(currency) === null);
  if (missing.length > 0) return none(missing);
  return {
    money: { currency: exchange.currency, minorDigits: exchange.minorDigits },
    missing: [],
    used: [...rates.values()].filter((rate) => rate !== null),
    convert: (minor, from) =>
      converted(minor, rates.get(from.currency)?.rate ?? 1, from.minorDigits, exchange.minorDigits),
  };
}
