import type { Me, Role } from "@chronometra/contract";
import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { call, keepToken } from "./api.ts";

export const sessionQuery = queryOptions({
  queryKey: ["session"],
  queryFn: async () => keepToken(await call("GET /api/session")),
  staleTime: Infinity,
});

/** Who is signed in; pages are only shown to someone who is. */
export function useMe(): Me {
  const { data } = useQuery(sessionQuery);
  if (data?.me == null) throw new Error("no one is signed in");
  return data.me;
}

export const holds = (me: Me, ...roles: Role[]): boolean => roles.some((role) => me.roles.includes(role));

/** Whether someone may look at projects, beyond their own desk. */
export const mayLook = (me: Me): boolean => holds(me, "controller", "projectManager", "approver", "reader");

export function useSignIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: async (body: { login: string; password: string }) => keepToken(await call("POST /api/session", { body })),
    onSuccess: (session) => {
      client.clear();
      client.setQueryData(sessionQuery.queryKey, session);
    },
  });
}

export function useSignOut() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: () => call("DELETE /api/session"),
    onSettled: async () => {
      client.clear();
      await client.fetchQuery(sessionQuery);
    },
  });
}
