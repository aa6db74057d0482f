import type { BrokenLimit } from "@chronometra/contract";
import { Link } from "react-router";

/** Where that lies which breaks a limit. */
export const behindLimit = (project: string, rule: BrokenLimit["rule"]): string =>
  ({
    spiBelow: `/projects/${project}?sort=sv`,
    cpiBelow: `/projects/${project}?sort=cv`,
    spitBelow: `/projects/${project}/performance`,
    driftOver: `/projects/${project}/compare?show=later&why=finish`,
    movedOver: `/projects/${project}/dates`,
    overrunOver: `/projects/${project}?sort=vac`,
    deadlines: `/deadlines?project=${project}`,
  })[rule];

/** A broken limit in words, which opens what breaks it. */
export const LimitLink = ({ project, limit: { rule, words } }: { project: string; limit: BrokenLimit }) => (
  <Link
    className="adverse text-sm underline decoration-base-300 underline-offset-2 hover:decoration-current"
    to={behindLimit(project, rule)}
  >
    {words}
  </Link>
);
