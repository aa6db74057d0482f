import type { Plan } from "@chronometra/core";
import type { useAddress } from "../../shared/page/useAddress.ts";
import { BOARD_ORDERS, type BoardAsked, type BoardOrder } from "./tracks.ts";
import { WordsField } from "../../shared/page/WordsField.tsx";

const teamOf = (team: { readonly members: readonly string[] } | undefined): ReadonlySet<string> | null =>
  team === undefined ? null : new Set(team.members);

/** What of the board the address asks for. */
export const askedIn = (params: URLSearchParams, { teams }: Pick<Plan, "teams">): BoardAsked => ({
  person: params.get("person") ?? "",
  team: teamOf(teams.get(params.get("team") ?? "")),
  words: params.get("words") ?? "",
  done: params.get("done") === "1",
  by: BOARD_ORDERS.find((order) => order === params.get("by")) ?? "stage",
});

const ORDER_WORDS: Readonly<Record<BoardOrder, string>> = {
  stage: "stages alone",
  state: "state",
  person: "person",
  box: "timebox",
  branch: "branch",
};

export interface Named {
  readonly id: string;
  readonly name: string;
}

interface FiltersProps {
  readonly asked: BoardAsked;
  readonly people: readonly Named[];
  readonly teams: readonly Named[];
  /** The team that is asked for, by its id. */
  readonly team: string;
  readonly put: ReturnType<typeof useAddress>[1];
}

/** Which work the board shows, and in what order. */
export function BoardFilters({ asked, people, teams, team, put }: FiltersProps) {
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 pb-3 text-sm">
      <WordsField label="Words in the name or the branch" value={asked.words} onWords={(words) => put({ words })} />
      <select
        className="select select-sm w-52"
        aria-label="Whose work"
        value={asked.person}
        onChange={({ target }) => put({ person: target.value })}
      >
        <option value="">everybody’s work</option>
        {people.map(({ id, name }) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
      {teams.length > 0 && (
        <select
          className="select select-sm w-40"
          aria-label="Of which team"
          value={team}
          onChange={({ target }) => put({ team: target.value })}
        >
          <option value="">every team</option>
          {teams.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      )}
      <label className="flex items-center gap-1.5">
        together by
        <select
          className="select select-sm w-36"
          aria-label="Together by"
          value={asked.by}
          onChange={({ target }) => put({ by: target.value === "stage" ? null : target.value })}
        >
          {BOARD_ORDERS.map((order) => (
            <option key={order} value={order}>
              {ORDER_WORDS[order]}
            </option>
          ))}
        </select>
      </label>
      <label className="flex min-h-[24px] items-center gap-1.5">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={asked.done}
          onChange={({ target }) => put({ done: target.checked ? "1" : null })}
        />
        finished too
      </label>
    </div>
  );
}
