import { isRouteErrorResponse, Link, useRouteError } from "react-router";

/** Nothing lives at this address, or its page broke. */
export function Astray() {
  const error = useRouteError();
  const broke = error !== undefined && error !== null && !isRouteErrorResponse(error);
  return (
    <div className="page">
      <h1 className="text-xl">{broke ? "This page broke" : "Nothing lives at this address"}</h1>
      <p className="muted mt-1">
        {broke
          ? "What was saved is safe. Load the page again; if it breaks again, tell whoever looks after Chronometra what you did."
          : "It may have been removed, or the link was cut short."}
      </p>
      {broke && (
        <pre className="mt-2 max-w-3xl overflow-auto text-xs">
          {error instanceof Error ? error.message : String(error)}
        </pre>
      )}
      <p className="mt-3">
        <Link className="underline" to="/">
          Go to the first page
        </Link>
      </p>
    </div>
  );
}
