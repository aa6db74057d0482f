import { z } from "zod";
import { ROLES } from "./roles.ts";

export const roleSchema = z.enum(ROLES);

export const signInSchema = z.strictObject({ login: z.string().min(1).max(120), password: z.string().min(1).max(200) });

/** Groups by role: each such role holds in these groups and below them alone; others hold for the whole house. */
const reachSchema = z.partialRecord(roleSchema, z.array(z.string().max(36)).max(500));

export const meSchema = z.object({
  id: z.string(),
  name: z.string(),
  login: z.string(),
  roles: z.array(roleSchema),
  /** Where roles hold that were given for groups: these groups and all below them. Left out: everywhere. */
  within: reachSchema.optional(),
  /** The person in plans whose work this account sees on its desk; null where it has none. */
  person: z.string().nullable(),
  /** Where the account's days begin and end (IANA). */
  timeZone: z.string(),
});
export type Me = z.infer<typeof meSchema>;

/**
 * Who is signed in, how they like the pages, by name, as they left them, and the token that every changing call must
 * carry.
 */
export const sessionSchema = z.object({
  me: meSchema.nullable(),
  preferences: z.record(z.string(), z.string()),
  token: z.string(),
});
export type SessionView = z.infer<typeof sessionSchema>;

/** An account as administrators write it. */
export const accountSchema = meSchema.omit({ within: true }).extend({
  /** The groups for which a role was given; roles that are left out were given for the whole house. */
  only: reachSchema,
});
export type Account = z.infer<typeof accountSchema>;

const passwordSchema = z.string().min(10, "a password has at least 10 characters").max(200);
const accountFields = {
  name: z.string().trim().min(1, "give the account a name").max(200),
  roles: z.array(roleSchema),
  /** The groups for which a role is given: those of `PLACED_ROLES` alone; others are for the whole house. */
  only: reachSchema.default({}),
  /** The person in plans whose work this account reports on. */
  person: z.string().max(64).nullable(),
};

export const newAccountSchema = z.strictObject({
  login: z
    .string()
    .trim()
    .toLowerCase()
    .regex(/^[a-z0-9][a-z0-9._@-]*$/, "small letters, digits, and . _ @ - only")
    .max(120),
  ...accountFields,
  password: passwordSchema,
});
export const editAccountSchema = z.strictObject({ ...accountFields, password: passwordSchema.optional() });
export const accountsSchema = z.object({
  accounts: z.array(accountSchema),
  /** The groups for which a role can be given, in their order. */
  groups: z.array(z.object({ id: z.string(), name: z.string(), parent: z.string().nullable() })),
  /** Everyone who appears in a plan, so that an account can be tied to its person. */
  people: z.array(z.object({ id: z.string(), name: z.string() })),
});
export type Accounts = z.infer<typeof accountsSchema>;

/** `null`: as the installation has it. */
export const timeZoneSchema = z.strictObject({ timeZone: z.string().max(64).nullable() });

export const changePasswordSchema = z.strictObject({ current: z.string().min(1).max(200), next: passwordSchema });
