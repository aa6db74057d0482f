import { z } from "zod";

/** What a person may do; one account may hold several. */
export const ROLES = ["controller", "projectManager", "contributor", "approver", "reader", "administrator"] as const;
export const roleSchema = z.enum(ROLES);
export type Role = z.infer<typeof roleSchema>;

export const signInSchema = z.strictObject({ login: z.string().min(1).max(120), password: z.string().min(1).max(200) });

export const meSchema = z.object({
  id: z.string(),
  name: z.string(),
  login: z.string(),
  roles: z.array(roleSchema),
  /** The person in plans whose work this account sees on its desk; null where it has none. */
  person: z.string().nullable(),
});
export type Me = z.infer<typeof meSchema>;

/** Who is signed in, and the token that every changing call must carry. */
export const sessionSchema = z.object({ me: meSchema.nullable(), token: z.string() });
export type SessionView = z.infer<typeof sessionSchema>;
