import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../shared/messages/toast.ts";
import { tokensQuery } from "../collect/outside/queries.ts";
import { call } from "../shared/session/api.ts";
import { Failure, Loaded } from "../shared/dialogs/Failure.tsx";
import { momentWords } from "../shared/words/words.ts";

/** Tokens by which other systems send time and costs. */
export function Tokens() {
  const client = useQueryClient();
  const query = useQuery(tokensQuery);
  const [name, setName] = useState("");
  const again = (): Promise<void> => client.invalidateQueries({ queryKey: tokensQuery.queryKey });
  const make = useMutation({
    mutationFn: () => call("POST /api/tokens", { body: { name } }),
    onSuccess: () => {
      setName("");
      void again();
    },
  });
  const end = useMutation({
    mutationFn: (token: string) => call("DELETE /api/tokens/:token", { params: { token } }),
    onSuccess: () => {
      toast("The token is ended; whoever sends with it is refused from now on.");
      void again();
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <section aria-label="Tokens of other systems">
      <h1 className="text-xl">Tokens of other systems</h1>
      <p className="muted max-w-prose text-sm">
        Another system sends time to POST /api/feeds/time and costs to POST /api/feeds/costs with Authorization: Bearer
        and its token. Each line counts once, by its reference.
      </p>
      {make.data !== undefined && (
        <p className="my-2 border-l-4 border-accent pl-3" role="status">
          The token, told this once: <code className="break-all select-all">{make.data.token}</code>
        </p>
      )}
      <Loaded query={query}>
        {(tokens) => (
          <ul className="max-w-2xl text-sm">
            {tokens.map((token) => (
              <li key={token.id} className="flex items-center gap-3 border-b rule py-1">
                <span className="font-semibold">{token.name}</span>
                <span className="muted">
                  made {momentWords(token.madeAt)},{" "}
                  {token.usedAt === null ? "never used" : `last used ${momentWords(token.usedAt)}`}
                </span>
                <button
                  type="button"
                  className="btn btn-xs ml-auto"
                  disabled={end.isPending}
                  aria-label={`End the token of ${token.name}`}
                  onClick={() => end.mutate(token.id)}
                >
                  Revoke
                </button>
              </li>
            ))}
            {tokens.length === 0 && <li className="muted py-1">No other system sends anything yet.</li>}
          </ul>
        )}
      </Loaded>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          make.mutate();
        }}
      >
        <input
          className="input input-sm w-64"
          aria-label="Which system"
          placeholder="which system"
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button className="btn btn-sm" disabled={make.isPending || name.trim() === ""}>
          Make a token
        </button>
      </form>
      {make.error !== null && <Failure error={make.error} />}
    </section>
  );
}
