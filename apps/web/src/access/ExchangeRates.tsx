import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import type { Exchange } from "@chronometra/core";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { readNumber } from "../shared/words/amounts.ts";
import { call } from "../shared/session/api.ts";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { holdsEverywhere, useMe } from "../shared/session/session.ts";
import { todayHere } from "../shared/words/today.ts";
import { dateWords, readDate } from "../shared/words/words.ts";
import { exchangeQuery } from "./queries.ts";

const CURRENCY = /^[A-Z]{3}$/;
export const EXCHANGE_HINT = "JPY 0.0061 from 1 Jan 2027";

/** Reads a rate as it is typed; tells why it cannot. */
export function readRate(
  text: string,
  { currency: group }: Pick<Exchange, "currency">,
  year: string,
): Exchange["rates"][number] | string {
  const match = /^([a-z]{3})\s*(?:=\s*)?(\S+)(?:\s+(?:from|since)\s+(.+))?$/i.exec(text.trim());
  const rate = match === null ? null : readNumber(match[2]!);
  const from = match?.[3] === undefined ? `${year}-01-01` : readDate(match[3], year);
  if (match === null || rate === null || rate <= 0 || from === null)
    return `Write ${EXCHANGE_HINT}: what one unit is worth in ${group}, and since when.`;
  const currency = match[1]!.toUpperCase();
  return currency === group ? `${group} is the currency of the sums; it needs no rate.` : { currency, from, rate };
}

/** Takes a rate in, in the place of one of the same currency and day. */
export const withRate = (rates: Exchange["rates"], rate: Exchange["rates"][number]): Exchange["rates"] => [
  ...rates.filter(({ currency, from }) => currency !== rate.currency || from !== rate.from),
  rate,
];

/** What one unit of other currencies is worth, and since when. */
function Rates({
  exchange,
  mayWrite,
  put,
}: {
  exchange: Exchange;
  mayWrite: boolean;
  put: (next: Exchange) => Promise<string | null>;
}) {
  const add = (text: string): Promise<string | null> | string => {
    const rate = readRate(text, exchange, todayHere().slice(0, 4));
    return typeof rate === "string" ? rate : put({ ...exchange, rates: withRate(exchange.rates, rate) });
  };
  return (
    <table className="ledger panel-table self-start" aria-label="Rates">
      <thead>
        <tr>
          <th>One</th>
          <th className="num">is, in {exchange.currency}</th>
          <th>Since</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {exchange.rates.map((rate) => (
          <tr key={`${rate.currency} ${rate.from}`}>
            <td>{rate.currency}</td>
            <td className="num">{rate.rate}</td>
            <td>{dateWords(rate.from)}</td>
            <td>
              {mayWrite && (
                <RemoveButton
                  what={`the rate of ${rate.currency} since ${dateWords(rate.from)}`}
                  onRemove={() => void put({ ...exchange, rates: exchange.rates.filter((each) => each !== rate) })}
                />
              )}
            </td>
          </tr>
        ))}
        {exchange.rates.length === 0 && (
          <tr>
            <td colSpan={4} className="muted">
              No rate yet: amounts of another currency are not summed.
            </td>
          </tr>
        )}
        {mayWrite && (
          <tr>
            <td colSpan={4}>
              <CommitField label="Add a rate" value="" adds width="w-64" placeholder={EXCHANGE_HINT} onCommit={add} />
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

function Table({ exchange, mayWrite }: { exchange: Exchange | null; mayWrite: boolean }) {
  const client = useQueryClient();
  const write = useMutation({
    mutationFn: (next: Exchange) => call("PUT /api/portfolio/exchange", { body: { exchange: next } }),
    onSuccess: () => client.invalidateQueries(),
  });
  const put = async (next: Exchange): Promise<string | null> => {
    try {
      await write.mutateAsync(next);
      return null;
    } catch (error) {
      return error instanceof Error ? error.message : String(error);
    }
  };
  const group = (text: string): Promise<string | null> | string => {
    const currency = text.trim().toUpperCase();
    if (!CURRENCY.test(currency)) return "Write a currency code of three letters, as EUR.";
    // What one unit is worth in another currency says nothing about this one.
    return put({
      currency,
      minorDigits: exchange?.minorDigits ?? 2,
      rates: exchange?.currency === currency ? exchange.rates : [],
    });
  };
  const digits = (text: string): Promise<string | null> | string =>
    /^[0-4]$/.test(text.trim()) ? put({ ...exchange!, minorDigits: Number(text) }) : "Write 0 to 4.";
  return (
    <div className="mt-1 flex flex-col gap-2 text-sm">
      <p className="flex flex-wrap items-center gap-2">
        Sums in{" "}
        <CommitField
          label="Currency of sums"
          value={exchange?.currency ?? ""}
          placeholder="EUR"
          width="w-16"
          disabled={!mayWrite}
          onCommit={group}
        />
        {exchange !== null && (
          <>
            with{" "}
            <CommitField
              label="Digits of sums"
              value={String(exchange.minorDigits)}
              width="w-10"
              numeric
              disabled={!mayWrite}
              onCommit={digits}
            />{" "}
            digits
          </>
        )}
      </p>
      {exchange !== null && <Rates exchange={exchange} mayWrite={mayWrite} put={put} />}
      {write.error !== null && <Failure error={write.error} />}
    </div>
  );
}

/** By what amounts of several currencies are summed: the currency of the sums, and what others are worth in it. */
export function ExchangeRates() {
  const me = useMe();
  const query = useQuery(exchangeQuery);
  return (
    <section id="rates">
      <h1 className="text-xl">Exchange rates</h1>
      <p className="muted max-w-2xl text-sm">
        Amounts of one currency are summed as they are. Those of several are converted at the rates in force on the data
        date of the sum, each project by itself; without a rate there is no sum.
      </p>
      <Loaded query={query}>
        {(exchange) => <Table exchange={exchange} mayWrite={holdsEverywhere(me, "controller")} />}
      </Loaded>
    </section>
  );
}
