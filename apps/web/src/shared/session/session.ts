import type { Me, Role, SessionView } from "@chronometra/contract";
import { queryOptions, useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { toast } from "../messages/toast.ts";
import { call, keepToken } from "./api.ts";
import { takeFirst } from "./firstSession.ts";
import { takePreferences } from "./preferences.ts";
import { keepTimeZone } from "../words/today.ts";

/** The session as the pages know it. */
export interface Session extends SessionView {
  /** Whose session ran out while pages of theirs were open: they stand there until someone has signed in again. */
  readonly ended: Me | null;
}

const SESSION_KEY = ["session"];

let account: string | null = null;
/** Whether someone is signing out in this page: calls that are refused meanwhile say nothing new. */
let leaving = false;

/** The account that is signed in in this page: what someone else left here to be sent is not sent in their name. */
export const signedInAs = (): string | null => account;

/** Takes in who is signed in: the token for their calls, how they like the pages, where their days begin. */
function keep(session: SessionView): SessionView {
  account = session.me?.id ?? null;
  if (account !== null) leaving = false;
  keepTimeZone(session.me?.timeZone);
  takePreferences(session.preferences, account);
  return keepToken(session);
}

/**
 * The session as it is now, beside what the pages knew: someone who did not sign out is still in the middle of
 * something.
 */
async function sessionAfter(client: QueryClient): Promise<Session> {
  const before = client.getQueryData<Session>(SESSION_KEY);
  const session = keep(await (takeFirst() ?? call("GET /api/session")));
  const was = before?.me ?? before?.ended ?? null;
  if (session.me !== null && was !== null && was.id !== session.me.id) forget(client);
  return { ...session, ended: session.me === null && !leaving ? was : null };
}

export const sessionQuery = queryOptions({
  queryKey: SESSION_KEY,
  queryFn: ({ client }) => sessionAfter(client),
  staleTime: Infinity,
});

/**
 * Who the pages are shown to. They have it from the frame around them and not from the session itself: a page that is
 * being drawn while someone signs out would find nobody there.
 */
export const Shown = createContext<Me | null>(null);

/** Who is signed in; pages are only shown to someone who is. */
export function useMe(): Me {
  const me = useContext(Shown);
  if (me === null) throw new Error("no one is signed in");
  return me;
}

export const holds = (me: Me, ...roles: Role[]): boolean => roles.some((role) => me.roles.includes(role));

/** Whether someone holds a role for the whole house, not for groups alone. */
export const holdsEverywhere = (me: Me, role: Role): boolean => holds(me, role) && me.within?.[role] === undefined;

/** Whether someone holds a role in a group. */
export const holdsIn = (me: Me, role: Role, group: string): boolean =>
  holdsEverywhere(me, role) || (me.within?.[role]?.includes(group) ?? false);

/** The roles that look at projects. */
export const LOOKERS = ["controller", "projectManager", "approver", "reader"] as const;

/** Whether someone may look at projects, beyond their own desk. */
export const mayLook = (me: Me): boolean => holds(me, ...LOOKERS);

/** Whether someone may look at every project. */
export const seesAll = (me: Me): boolean => LOOKERS.some((role) => holdsEverywhere(me, role));

/** Whether someone may look at all that lies in a group. */
export const seesGroup = (me: Me, group: string): boolean => LOOKERS.some((role) => holdsIn(me, role, group));

/** Forgets all that was fetched for whoever was signed in before. */
const forget = (client: QueryClient): void =>
  client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION_KEY[0] });

/**
 * Takes the session as it is now. Whoever comes back finds the pages as they left them, and only what is shown is
 * fetched anew.
 */
function changeHands(client: QueryClient, session: SessionView): void {
  const ended = client.getQueryData<Session>(SESSION_KEY)?.ended;
  client.setQueryData<Session>(SESSION_KEY, { ...session, ended: null });
  if (ended == null || ended.id !== session.me?.id) forget(client);
  else void client.invalidateQueries({ predicate: ({ queryKey }) => queryKey[0] !== SESSION_KEY[0] });
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (body: { login: string; password: string }) => keep(await call("POST /api/session", { body })),
    onSuccess: (session) => changeHands(client, session),
  });
}

/** Leaves the pages of whoever's session ran out, with what was not saved on them. */
export function useLeave(): () => void {
  const client = useQueryClient();
  return () => {
    client.setQueryData<Session>(SESSION_KEY, (session) => session && { ...session, ended: null });
    forget(client);
  };
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async () => {
      leaving = true;
      await call("DELETE /api/session");
      return keep(await call("GET /api/session"));
    },
    onSuccess: (session) => changeHands(client, session),
    onError: ({ message }) => {
      leaving = false;
      toast.error(`You are still signed in: ${message}`);
    },
  });
}
