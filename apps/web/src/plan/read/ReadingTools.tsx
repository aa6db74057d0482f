import type { PlanPart } from "./planLanes.ts";
import type { Reading } from "./useReading.ts";

const PART_WORDS: Readonly<Record<PlanPart, string>> = {
  all: "the whole plan",
  own: "your work",
  deadlines: "deadlines",
};

interface Props extends Pick<Reading, "params" | "put" | "part"> {
  readonly parts: readonly PlanPart[];
}

/** What of a plan is shown, and what is looked for in it. */
export function ReadingTools({ parts, params, put, part }: Props) {
  return (
    <>
      <select
        className="select select-sm w-auto"
        aria-label="What of the plan is shown"
        value={part}
        onChange={({ target }) => put({ part: target.value === "all" ? null : target.value })}
      >
        {parts.map((each) => (
          <option key={each} value={each}>
            {PART_WORDS[each]}
          </option>
        ))}
      </select>
      <input
        type="search"
        className="input input-sm w-48"
        placeholder="Find"
        aria-label="Find in the plan"
        value={params.get("find") ?? ""}
        onChange={({ target }) => put({ find: target.value })}
      />
    </>
  );
}
