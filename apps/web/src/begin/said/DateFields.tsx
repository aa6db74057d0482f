import type { DateWish } from "@chronometra/contract";
import { DateField } from "../../shared/fields/DateField.tsx";

/** From which side the dates are found, and the day; empty while none is said. */
export interface Dated {
  readonly by: "start" | "finish";
  readonly date: string;
}

/** The same as it is asked; `null` while no day is said. */
export const wishOf = ({ by, date }: Dated): DateWish | null =>
  date === "" ? null : by === "start" ? { start: date } : { finish: date };

/** When it begins, or by when it is to be finished. */
export const DateFields = ({
  dated,
  onChange,
}: {
  readonly dated: Dated;
  readonly onChange: (dated: Dated) => void;
}) => (
  <fieldset className="flex flex-wrap items-center gap-2 text-sm">
    <legend className="sr-only">Dates</legend>
    <select
      className="select select-sm w-48"
      aria-label="Dates are found"
      value={dated.by}
      onChange={(event) => onChange({ ...dated, by: event.target.value as Dated["by"] })}
    >
      <option value="start">begins on</option>
      <option value="finish">is to be finished by</option>
    </select>
    <DateField label="Day" small value={dated.date} onDate={(date) => onChange({ ...dated, date })} />
  </fieldset>
);
