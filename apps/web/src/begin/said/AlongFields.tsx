import type { TakenAlongWish } from "@chronometra/contract";

interface Props {
  readonly along: TakenAlongWish;
  readonly onChange: (along: TakenAlongWish) => void;
}

const PEOPLE: readonly (readonly [TakenAlongWish["people"], string])[] = [
  ["people", "people by name"],
  ["roles", "roles in their place"],
  ["none", "nobody"],
];
const MORE: readonly (readonly [Exclude<keyof TakenAlongWish, "people">, string])[] = [
  ["costs", "planned costs"],
  ["risks", "risks and ranges"],
  ["deadlines", "deadlines"],
  ["charter", "charter and stages"],
  ["documents", "documents"],
];

/** What goes along. */
export const AlongFields = ({ along, onChange }: Props) => (
  <fieldset className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
    <legend className="pb-1">What goes along; time, costs and progress so far never do</legend>
    <label className="flex items-center gap-2">
      Who works
      <select
        className="select select-sm w-48"
        value={along.people}
        onChange={(event) => onChange({ ...along, people: event.target.value as TakenAlongWish["people"] })}
      >
        {PEOPLE.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </select>
    </label>
    {MORE.map(([field, words]) => (
      <label key={field} className="flex items-center gap-1">
        <input
          type="checkbox"
          className="checkbox checkbox-xs"
          checked={along[field]}
          onChange={(event) => onChange({ ...along, [field]: event.target.checked })}
        />
        {words}
      </label>
    ))}
  </fieldset>
);
