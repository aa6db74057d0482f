import type { ProjectLine } from "@chronometra/contract";
import { Link } from "react-router";

/** Those that are closed, which the sums leave out. */
export function ClosedProjects({ lines }: { lines: readonly ProjectLine[] }) {
  if (lines.length === 0) return null;
  return (
    <details className="pt-2 text-sm">
      <summary className="muted cursor-pointer">{lines.length} closed, in no sum</summary>
      <ul>
        {lines.map(({ id, code, name }) => (
          <li key={id}>
            <Link className="link-quiet" to={`/projects/${id}`}>
              {code} {name}
            </Link>
          </li>
        ))}
      </ul>
    </details>
  );
}
