import { holds, mayLook, useMe } from "../shared/session.ts";
import { Accounts } from "./Accounts.tsx";
import { ExchangeRates } from "./ExchangeRates.tsx";
import { Tokens } from "./Tokens.tsx";

const Refused = ({ who }: { who: string }) => (
  <p className="page">This page is for {who}. Ask an administrator if it is to be yours.</p>
);

/** What currencies are worth. */
export function RatesPage() {
  return mayLook(useMe()) ? (
    <div className="page max-w-5xl">
      <ExchangeRates />
    </div>
  ) : (
    <Refused who="people with a reading role" />
  );
}

/** Who can sign in and what they may do. */
export function AccountsPage() {
  return holds(useMe(), "administrator") ? (
    <div className="page max-w-5xl">
      <Accounts />
    </div>
  ) : (
    <Refused who="administrators" />
  );
}

/** What other systems send by. */
export function SystemsPage() {
  return holds(useMe(), "administrator") ? (
    <div className="page max-w-5xl">
      <Tokens />
    </div>
  ) : (
    <Refused who="administrators" />
  );
}
