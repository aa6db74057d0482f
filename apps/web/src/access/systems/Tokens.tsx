import { TOKEN_PURPOSES, type Tokens as TokenList } from "@chronometra/contract";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { toast } from "../../shared/messages/toast.ts";
import { tokensQuery } from "../../collect/outside/queries.ts";
import { call } from "../../shared/session/api.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { dateWords, momentWords } from "../../shared/words/words.ts";
import { EndFirst } from "./fields.tsx";
import { NewToken } from "./NewToken.tsx";

const listed = new Intl.ListFormat("en", { type: "conjunction" });

/** What a token is for, of which group, and until when, in a sentence. */
function reachWords({ purposes, group, lastDay, ended }: TokenList[number]): string {
  const may = purposes.map((each) => TOKEN_PURPOSES[each]);
  const of = group === null ? "of the whole house" : `of ${group.name} and below`;
  const until = lastDay === null ? "" : ended ? `, ended on ${dateWords(lastDay)}` : `, until ${dateWords(lastDay)}`;
  return `may ${listed.format(may)} ${of}${until}`;
}

function TokenLine({ token, isBusy, onEnd }: { token: TokenList[number]; isBusy: boolean; onEnd: () => void }) {
  const [isAsked, ask] = useState(false);
  return (
    <li className="flex items-center gap-3 border-b rule py-1">
      <span className="min-w-0 flex-1">
        <span className="font-semibold">{token.name}</span>{" "}
        <span className={token.ended ? "adverse" : ""}>{reachWords(token)}</span>
        <span className="muted block">
          made {momentWords(token.madeAt)},{" "}
          {token.usedAt === null ? "never used" : `last used ${momentWords(token.usedAt)}`}
        </span>
      </span>
      <button
        type="button"
        className="btn btn-xs"
        disabled={isBusy}
        aria-label={`End the token of ${token.name}`}
        onClick={() => ask(true)}
      >
        Revoke
      </button>
      {isAsked && (
        <EndFirst title={`The token of ${token.name}`} words="Revoke it" onEnd={onEnd} onClose={() => ask(false)}>
          Whoever calls with it is refused from then on; a token cannot be brought back, only a new one made.
        </EndFirst>
      )}
    </li>
  );
}

/** Tokens by which other systems read and send. */
export function Tokens() {
  const client = useQueryClient();
  const query = useQuery(tokensQuery);
  const end = useMutation({
    mutationFn: (token: string) => call("DELETE /api/tokens/:token", { params: { token } }),
    onSuccess: () => {
      toast("The token is ended; whoever calls with it is refused from now on.");
      void client.invalidateQueries({ queryKey: tokensQuery.queryKey });
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <section aria-label="Tokens of other systems">
      <h1 className="text-xl">Tokens of other systems</h1>
      <p className="muted max-w-prose text-sm">
        Another system calls with Authorization: Bearer and its token: it reads figures by period at /api/feeds/figures
        watchlists at /api/feeds/watchlists and how the server fares at /api/feeds/metrics, and sends to /api/feeds/time
        and /api/feeds/costs, where each line counts once, by its reference.
      </p>
      <Loaded query={query}>
        {(tokens) => (
          <ul className="max-w-3xl pt-2 text-sm">
            {tokens.map((token) => (
              <TokenLine key={token.id} token={token} isBusy={end.isPending} onEnd={() => end.mutate(token.id)} />
            ))}
            {tokens.length === 0 && <li className="muted py-1">No other system reads or sends anything yet.</li>}
          </ul>
        )}
      </Loaded>
      <NewToken />
    </section>
  );
}
