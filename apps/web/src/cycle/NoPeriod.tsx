import { Link } from "react-router";

/** That no period is open, and where the next one is opened. */
export const NoPeriod = () => (
  <div className="page">
    <p>
      No reporting period is open.{" "}
      <Link className="underline" to="/cycle">
        Open the next one in the cycle
      </Link>
    </p>
  </div>
);
