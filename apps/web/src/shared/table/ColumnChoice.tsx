import { Columns3 } from "lucide-react";

interface Props {
  readonly columns: readonly { readonly id: string; readonly head: string }[];
  readonly hidden: readonly string[];
  readonly onChoose: (id: string, shown: boolean) => void;
}

/** Which columns of a table are shown. */
export function ColumnChoice({ columns, hidden, onChoose }: Props) {
  return (
    <details className="relative">
      <summary className="btn btn-ghost btn-sm list-none">
        <Columns3 size={14} aria-hidden="true" /> Columns
      </summary>
      <div className="absolute z-30 mt-1 flex max-h-80 w-56 flex-col gap-1 overflow-auto border rule bg-base-100 p-2">
        {columns.map(({ id, head }) => (
          <label key={id} className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-xs"
              checked={!hidden.includes(id)}
              onChange={(event) => onChoose(id, event.target.checked)}
            />{" "}
            {head}
          </label>
        ))}
      </div>
    </details>
  );
}
