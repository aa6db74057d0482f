import type { Me, Role, SessionView } from "@chronometra/contract";
import { queryOptions, useMutation, useQueryClient, type QueryClient } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { toast } from "sonner";
import { call, keepToken } from "./api.ts";
import { takePreferences } from "./preferences.ts";
import { keepTimeZone } from "./today.ts";

let account: string | null = null;

/** The account that is signed in in this page: what someone else left here to be sent is not sent in their name. */
export const signedInAs = (): string | null => account;

/** Takes in who is signed in: the token for their calls, how they like the pages, where their days begin. */
function keep(session: SessionView): SessionView {
  account = session.me?.id ?? null;
  keepTimeZone(session.me?.timeZone);
  takePreferences(session.preferences);
  return keepToken(session);
}

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: async () => keep(await call("GET /api/session")),
  staleTime: Infinity,
});

/**
 * Who the pages are shown to. They have it from the frame around them and not from the session itself: a page that is being
 * drawn while someone signs out would find nobody there.
 */
export const Shown = createContext<Me | null>(null);

/** Who is signed in; pages are only shown to someone who is. */
export function useMe(): Me {
  const me = useContext(Shown);
  if (me === null) throw new Error("no one is signed in");
  return me;
}

export const holds = (me: Me, ...roles: Role[]): boolean => roles.some((role) => me.roles.includes(role));

/** Whether someone may look at projects, beyond their own desk. */
export const mayLook = (me: Me): boolean => holds(me, "controller", "projectManager", "approver", "reader");

/** Forgets all that was fetched for whoever was signed in before, and takes the session as it is now. */
function changeHands(client: QueryClient, session: SessionView): void {
  client.setQueryData(sessionQuery.queryKey, session);
  client.removeQueries({ predicate: ({ queryKey }) => queryKey[0] !== sessionQuery.queryKey[0] });
}

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (body: { login: string; password: string }) => keep(await call("POST /api/session", { body })),
    onSuccess: (session) => changeHands(client, session),
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async () => {
      await call("DELETE /api/session");
      return keep(await call("GET /api/session"));
    },
    onSuccess: (session) => changeHands(client, session),
    onError: ({ message }) => toast.error(`You are still signed in: ${message}`),
  });
}
