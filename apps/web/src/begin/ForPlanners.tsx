import { Outlet } from "react-router";
import { Refused } from "../shared/dialogs/Refused.tsx";
import { holds, useMe } from "../shared/session/session.ts";

/** Pages that only those may use who may begin projects; others are told so before they type. */
export const ForPlanners = () =>
  holds(useMe(), "controller", "projectManager") ? <Outlet /> : <Refused who="project managers and controllers" />;
