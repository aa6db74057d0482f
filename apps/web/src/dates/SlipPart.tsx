import type { SlipChoiceView } from "@chronometra/contract";
import { dateWords } from "../shared/words/words.ts";

type Row = SlipChoiceView["before"][number];

/** Activities or milestones that can go along, each to be said. */
export function SlipPart({
  title,
  rows,
  ticked,
  onTick,
  empty,
}: {
  title: string;
  rows: readonly Row[];
  ticked: ReadonlySet<string>;
  onTick: (ids: readonly string[], on: boolean) => void;
  empty: string;
}) {
  return (
    <section className="pt-3">
      <h3 className="flex items-baseline gap-3 border-b rule text-sm font-semibold">
        {title} <span className="muted font-normal">{rows.length}</span>
        {rows.length > 1 && (
          <label className="ml-auto flex items-center gap-1.5 font-normal">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={rows.every(({ id }) => ticked.has(id))}
              onChange={(event) =>
                onTick(
                  rows.map(({ id }) => id),
                  event.target.checked,
                )
              }
            />
            all
          </label>
        )}
      </h3>
      <ul className="text-sm">
        {rows.map(({ id, name, start, finish, milestone, deadline, decides, people }) => (
          <li key={id} className="border-b rule py-0.5">
            <label className="flex min-h-[24px] items-baseline gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-xs self-center"
                checked={ticked.has(id)}
                onChange={(event) => onTick([id], event.target.checked)}
              />
              <span>
                {name}
                {decides && <span className="undecided"> decides the date</span>}{" "}
                <span className="muted">
                  {milestone ? dateWords(finish) : `${dateWords(start)} to ${dateWords(finish)}`}
                  {deadline !== null && `, deadline ${dateWords(deadline)}`}
                  {people.length > 0 && ` · ${people.join(", ")}`}
                </span>
              </span>
            </label>
          </li>
        ))}
        {rows.length === 0 && <li className="muted py-1">{empty}</li>}
      </ul>
    </section>
  );
}
