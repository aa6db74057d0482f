import { useDeferredValue, type ReactNode } from "react";
import { CallFailed } from "../session/api.ts";

interface Props {
  readonly error: unknown;
  readonly onAgain?: () => void;
}

/** What went wrong, where, and what to do, in the server's words. */
export function Failure({ error, onAgain }: Props) {
  const problems = error instanceof CallFailed ? (error.body.problems ?? []) : [];
  // One problem alone is said in the words of the screen, where there are any.
  const said = problems.length === 1 ? problems[0]!.said : undefined;
  const message = said ?? (error instanceof Error ? error.message : String(error));
  return (
    <div role="alert" className="my-2 border-l-4 border-error bg-base-200 px-3 py-2 text-sm">
      <p className="whitespace-pre-wrap">{message}</p>
      {problems.length > 1 && (
        <ul className="mt-1 list-disc pl-5">
          {problems.slice(0, 12).map((problem, i) => (
            <li key={i}>
              {problem.said ??
                `${[problem.table, problem.row, problem.field].filter(Boolean).join(" · ")}: ${problem.message}`}
            </li>
          ))}
        </ul>
      )}
      {error instanceof CallFailed && error.status === 404 && (
        <p className="mt-1">
          <a className="underline" href="/">
            Go to the first page
          </a>
        </p>
      )}
      {onAgain !== undefined && (
        <button type="button" className="btn btn-sm mt-2" onClick={onAgain}>
          Try again
        </button>
      )}
    </div>
  );
}

/** Whether the same call may go through another time: not where it is not allowed, or nothing is there. */
const mayHelp = (error: unknown): boolean =>
  !(error instanceof CallFailed) || (error.status !== 403 && error.status !== 404);

interface LoadedProps<T> {
  readonly query: { readonly data: T | undefined; readonly error: unknown; readonly refetch: () => unknown };
  readonly children: (data: T) => ReactNode;
}

/** A page's data when it is there; until then that it is being fetched, or why it cannot be. */
export function Loaded<T>({ query, children }: LoadedProps<T>) {
  // A page is first drawn in slices, so that it answers meanwhile; what changes on it later is drawn at once.
  const drawn = useDeferredValue(query.data !== undefined, false);
  if (query.data !== undefined && drawn) return <>{children(query.data)}</>;
  if (query.error !== null && query.data === undefined)
    return (
      <div className="page">
        <Failure error={query.error} {...(mayHelp(query.error) ? { onAgain: () => void query.refetch() } : {})} />
      </div>
    );
  return (
    <p className="page muted" role="status">
      Loading …
    </p>
  );
}
