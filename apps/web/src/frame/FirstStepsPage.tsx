import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { approvalsQuery, requestsQuery } from "../approve/queries.ts";
import { periodQuery } from "../cycle/queries.ts";
import { portfolioQuery } from "../project/queries.ts";
import { mayLook, useMe } from "../shared/session/session.ts";
import { firstSteps, type Step } from "./firstSteps.ts";

function StepLine({ step: { name, to, why, stands, done } }: { step: Step }) {
  return (
    <li className="border-b rule py-1.5">
      <div className="flex flex-wrap items-baseline gap-x-3">
        <Link className="font-semibold underline" to={to}>
          {name}
        </Link>
        {stands !== null && stands !== "" && (
          <span className={`text-sm ${done ? "favourable" : "undecided"}`}>
            {done ? "✓ " : ""}
            {stands}
          </span>
        )}
      </div>
      <p className="muted text-sm">{why}</p>
    </li>
  );
}

/** What is mine to do, role by role, in the order in which to do it. */
export function FirstStepsPage() {
  const me = useMe();
  const looks = mayLook(me);
  const { data: period } = useQuery(periodQuery);
  const { data: portfolio } = useQuery({ ...portfolioQuery, enabled: looks });
  const { data: approvals } = useQuery({ ...approvalsQuery, enabled: looks });
  const { data: requests } = useQuery({ ...requestsQuery, enabled: looks });
  const waiting = approvals === undefined || requests === undefined ? undefined : approvals.length + requests.length;
  return (
    <div className="page max-w-3xl">
      <h1 className="text-xl">First steps</h1>
      <p className="muted pb-2 text-sm">
        What is yours to do, in this order. Anything is found from anywhere with Ctrl + K.
      </p>
      {firstSteps(me, { period, portfolio, waiting }).map(({ role, steps }) => (
        <section key={role} aria-label={role} className="pb-4">
          <h2 className="text-base">{role}</h2>
          <ol className="list-inside">
            {steps.map((step) => (
              <StepLine key={step.name} step={step} />
            ))}
          </ol>
        </section>
      ))}
    </div>
  );
}
