/** The head of the column of ticks, with the one for all. */
export const TickAll = ({ name, all, onAll }: { name: string; all: boolean; onAll: (on: boolean) => void }) => (
  <th className="w-6">
    <input
      type="checkbox"
      className="checkbox checkbox-xs"
      aria-label={name}
      checked={all}
      onChange={(event) => onAll(event.target.checked)}
    />
  </th>
);
