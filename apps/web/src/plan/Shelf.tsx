import type { SheetRow } from "./engine/sheet.ts";

interface Props {
  readonly rows: readonly SheetRow[];
  readonly onGo: (id: string) => void;
}

/** Work that has no dates yet, always in sight: one click leads to its length. */
export function Shelf({ rows, onGo }: Props) {
  return (
    <div
      role="region"
      aria-label="Without dates"
      className="flex items-center gap-2 border-t rule bg-base-200 px-4 py-0.5 text-[13px]"
    >
      <span className="undecided shrink-0 font-semibold">Without dates</span>
      <ul
        className="flex grow gap-3 overflow-x-auto whitespace-nowrap"
        tabIndex={0}
        aria-label="Activities without dates"
      >
        {rows.map(({ id, name }) => (
          <li key={id}>
            <button
              type="button"
              className="link-quiet max-w-56 cursor-pointer truncate"
              title={`${name}: give it a duration, or people with hours`}
              onClick={() => onGo(id)}
            >
              {name}
            </button>
          </li>
        ))}
      </ul>
      <span className="muted shrink-0">{rows.length} in all</span>
    </div>
  );
}
