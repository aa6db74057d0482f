import type { CommonMoney } from "@chronometra/core";
import type { SummedIn } from "@chronometra/contract";
import { Link } from "react-router";
import { dateWords } from "../words/words.ts";

/** What amounts came together in, as the server tells it of sums that it made. */
export const toSummedIn = ({ money, missing, used }: CommonMoney, on: string): SummedIn => ({
  currency: money?.currency ?? null,
  minorDigits: money?.minorDigits ?? 2,
  on,
  used: [...used],
  missing: [...missing],
});

/** Says of sums over several currencies how they were made, or which rate is missing; of one currency nothing. */
export function SummedNote({
  money: { currency, on, used, missing },
  several = "Sums",
}: {
  money: SummedIn;
  several?: string;
}) {
  if (missing.length > 0) {
    return (
      <span className="undecided">
        No {several.toLowerCase()} over several currencies: for {missing.join(", ")} no rate is set on {dateWords(on)}.{" "}
        <Link className="underline" to="/set-up/rates">
          Rates
        </Link>
      </span>
    );
  }
  if (used.length === 0) return null;
  return (
    <span className="muted">
      {several} in {currency}, at the rates on {dateWords(on)}:{" "}
      {used.map(({ currency: each, rate, from }) => `1 ${each} = ${rate} (since ${dateWords(from)})`).join(", ")}.
    </span>
  );
}
