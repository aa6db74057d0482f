/** What a person may do; one account may hold several. */
export const ROLES = ["controller", "projectManager", "contributor", "approver", "reader", "administrator"] as const;
export type Role = (typeof ROLES)[number];
