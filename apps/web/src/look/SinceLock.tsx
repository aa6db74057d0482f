import type { ProjectLook } from "@chronometra/contract";
import { Link } from "react-router";
import { lockedPeriod, sinceLockWords, toldOf } from "../shared/words/sinceLock.ts";
import { dateWords } from "../shared/words/words.ts";

/** That the figures are those of a locked period, and what has changed since it was locked. */
export function SinceLock({ look }: { look: ProjectLook }) {
  const period = lockedPeriod(look);
  if (period === null) return null;
  const words = sinceLockWords(toldOf(period), toldOf(look.summary), look.summary);
  return (
    <p className="pb-1 text-sm">
      Period {period.number}, to {dateWords(period.dataDate)}, is locked.{" "}
      {words.length === 0 ? (
        <span className="muted">Its figures are as they were locked.</span>
      ) : (
        <>
          <span className="undecided">Changed since: {words.join(" · ")}.</span>{" "}
          <Link
            className="underline"
            to={`/projects/${look.id}/compare?from=period-${period.number}&to=plan&why=finish`}
          >
            What changed
          </Link>
        </>
      )}
    </p>
  );
}
