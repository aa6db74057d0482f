import type { BodyOf, EndpointKey, ResponseOf } from "@chronometra/contract";
import { useMutation, useQueryClient, type UseMutationResult } from "@tanstack/react-query";
import { toast } from "../shared/messages/toast.ts";
import { call, CallFailed } from "../shared/session/api.ts";

interface Written<K extends EndpointKey> {
  readonly params?: Record<string, string>;
  readonly body: BodyOf<K>;
}

/** Writes something that the portfolio page shows, and fetches the page anew. */
export function usePortfolioWrite<K extends EndpointKey>(
  key: K,
  done?: () => void,
): UseMutationResult<ResponseOf<K>, Error, Written<K>> {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ params, body }: Written<K>) => call(key, { ...(params === undefined ? {} : { params }), body }),
    onSuccess: () => {
      void client.invalidateQueries();
      done?.();
    },
    onError: (error) => {
      toast.error(error.message);
      // What someone else wrote meanwhile is shown.
      if (error instanceof CallFailed && error.status === 409) void client.invalidateQueries();
    },
  });
}
