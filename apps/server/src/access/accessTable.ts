import type { EndpointKey, Role } from "@chronometra/contract";

/** Everyone with the address, everyone who is signed in, or holders of one of some roles. */
export type Access = "anyone" | "signedIn" | readonly Role[];

const LOOKERS = ["controller", "projectManager", "approver", "reader"] as const;
const PLANNERS = ["controller", "projectManager"] as const;

/**
 * Who may call what: the one place where it is decided. Project managers may change only projects that are theirs;
 * `mayEdit` in projectAccess.ts sees to that.
 */
export const ACCESS: Readonly<Record<EndpointKey, Access>> = {
  "GET /api/session": "anyone",
  "POST /api/session": "anyone",
  "DELETE /api/session": "signedIn",
  "PUT /api/session/password": "signedIn",
  "GET /api/accounts": ["administrator"],
  "POST /api/accounts": ["administrator"],
  "PUT /api/accounts/:account": ["administrator"],
  "GET /api/openapi.json": "anyone",

  "GET /api/period": "signedIn",
  "POST /api/periods": ["controller"],
  "POST /api/programmes": ["controller", "projectManager", "administrator"],
  "GET /api/portfolio": LOOKERS,
  "POST /api/portfolio/data-date": ["controller"],

  "POST /api/projects": PLANNERS,
  "GET /api/projects/:project": LOOKERS,
  "GET /api/projects/:project/activities/:activity": LOOKERS,
  "GET /api/projects/:project/plan": LOOKERS,
  "POST /api/projects/:project/changes": PLANNERS,
  "POST /api/projects/:project/undo": PLANNERS,
  "POST /api/projects/:project/effect": PLANNERS,
  "GET /api/projects/:project/history": LOOKERS,
  "GET /api/projects/:project/export/:form": LOOKERS,
  "POST /api/projects/:project/periods": PLANNERS,

  "GET /api/approvals": LOOKERS,
  "GET /api/projects/:project/ledger": LOOKERS,
  "POST /api/projects/:project/approvals": PLANNERS,
  "POST /api/approvals/:approval/decision": ["approver"],
  "GET /api/projects/:project/baselines/:number/digest": LOOKERS,

  "GET /api/desk": "signedIn",
  "POST /api/desk/reports": ["contributor", "projectManager", "controller"],
  "DELETE /api/desk/reports/:report": ["contributor", "projectManager", "controller"],
  "GET /api/reports": PLANNERS,
  "POST /api/reports/effect": PLANNERS,
  "POST /api/reports/decision": PLANNERS,

  "POST /api/imports": PLANNERS,
  "GET /api/imports/:import": PLANNERS,
  "PUT /api/imports/:import": PLANNERS,
  "POST /api/imports/:import/store": PLANNERS,
  "DELETE /api/imports/:import": PLANNERS,
};
