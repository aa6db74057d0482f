/** What a person may do; one account may hold several. */
export const ROLES = ["controller", "projectManager", "contributor", "approver", "reader", "administrator"] as const;
export type Role = (typeof ROLES)[number];

/** Roles that can be given for groups; who administers or reports time does so for the whole house. */
export const PLACED_ROLES = ["controller", "projectManager", "approver", "reader"] as const satisfies readonly Role[];
