import type { Clash } from "@chronometra/contract";
import { useState } from "react";
import { momentWords } from "../shared/words/words.ts";
import type { Refused } from "./engine/session/outbox.ts";
import type { PlanSession } from "./engine/session/planSession.ts";
import { valueWords } from "./valueWords.ts";

const Clashing = ({ clash: { path, what, theirs, yours, by, at } }: { clash: Clash }) => (
  <li>
    {what}: {by} wrote {valueWords(path, theirs)} on {momentWords(at)}; you wrote {valueWords(path, yours)}.
  </li>
);

function One({ refused, session }: { refused: Refused; session: PlanSession }) {
  const [fault, setFault] = useState<string | null>(null);
  const insist = async (): Promise<void> => {
    const problems = await session.insist(refused);
    setFault(problems === null ? null : problems[0]!.message);
  };
  return (
    <li className="border-b rule py-1 last:border-0">
      <p>
        <span className="adverse font-semibold">Not stored: {refused.what}.</span>{" "}
        {refused.clashes.length > 0 ? "Someone else changed the same thing meanwhile; theirs stands." : refused.why}
      </p>
      {refused.clashes.length > 0 && (
        <ul className="list-disc pl-5">
          {refused.clashes.map((clash) => (
            <Clashing key={clash.path} clash={clash} />
          ))}
        </ul>
      )}
      {fault !== null && (
        <p role="alert" className="adverse">
          {fault}
        </p>
      )}
      <p className="mt-0.5 flex gap-2">
        {refused.undoes === null && (
          <button type="button" className="btn btn-xs" onClick={() => void insist()}>
            {refused.clashes.length > 0 ? "Make it mine all the same" : "Try it again"}
          </button>
        )}
        <button type="button" className="btn btn-xs" onClick={() => session.dismiss(refused.list)}>
          Give it up
        </button>
      </p>
    </li>
  );
}

/**
 * What the server did not take, each with why and both values where two wrote the same; it stays until it is tried
 * again or given up.
 */
export function RefusedView({ refused, session }: { refused: readonly Refused[]; session: PlanSession }) {
  if (refused.length === 0) return null;
  return (
    <ul role="alert" aria-label="Not stored" className="max-h-40 overflow-auto py-0.5">
      {refused.map((each) => (
        <One key={each.list} refused={each} session={session} />
      ))}
    </ul>
  );
}
