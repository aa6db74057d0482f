import { holds, mayLook, useMe } from "../shared/session/session.ts";
import { Refused } from "../shared/dialogs/Refused.tsx";
import { Accounts } from "./Accounts.tsx";
import { ExchangeRates } from "./ExchangeRates.tsx";
import { Hooks } from "./systems/Hooks.tsx";
import { Tokens } from "./systems/Tokens.tsx";

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

/** What other systems read and send by, and which are called. */
export function SystemsPage() {
  return holds(useMe(), "administrator") ? (
    <div className="page max-w-5xl">
      <Tokens />
      <Hooks />
    </div>
  ) : (
    <Refused who="administrators" />
  );
}
