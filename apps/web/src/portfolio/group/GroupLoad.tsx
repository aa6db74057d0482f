import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { isOver, loadLines, overAndRoom } from "../../load/loadLines.ts";
import { loadQuery } from "../../load/queries.ts";
import { Loaded } from "../../shared/dialogs/Failure.tsx";
import { todayHere } from "../../shared/words/today.ts";
import { countWords, numberWords } from "../../shared/words/words.ts";
import { HOUSE } from "./groupFigures.ts";

const WEEKS = 13;
const HOUR = 60;

/**
 * How those who work in a group stand in the next weeks, with all their work: who has too much, and where there is
 * room.
 */
export function GroupLoad({ id }: { id: string }) {
  const group = id === HOUSE ? null : id;
  const at = `/load?weeks=${WEEKS}${group === null ? "" : `&group=${group}`}`;
  return (
    <Loaded query={useQuery(loadQuery(todayHere(), WEEKS, group))}>
      {(load) => {
        const lines = loadLines(load, "person");
        if (lines.length === 0) return <p className="muted text-sm">Nobody has work here in the next {WEEKS} weeks.</p>;
        const people = (count: number): string => countWords(count, "person", "people");
        const over = lines.filter(isOver);
        const sums = lines.map(overAndRoom);
        const hours = (part: "over" | "room"): string =>
          numberWords(sums.reduce((sum, each) => sum + each[part], 0) / HOUR, 0);
        return (
          <p className="text-sm">
            <Link to={at}>{people(lines.length)}</Link> {lines.length === 1 ? "has" : "have"} work here in the next{" "}
            {WEEKS} weeks
            {over.length === 0 ? (
              ", nobody more than fits"
            ) : (
              <>
                ,{" "}
                <Link className="adverse" to={`${at}&over=yes`}>
                  {people(over.length)} over
                </Link>{" "}
                in some of them, by {hours("over")} h together
              </>
            )}
            ; room for {hours("room")} h. All their work counts, also in other groups.
          </p>
        );
      }}
    </Loaded>
  );
}
