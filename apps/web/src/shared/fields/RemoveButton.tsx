import { X } from "lucide-react";

interface Props {
  /** What is removed, as it is said after “Remove”. */
  readonly what: string;
  readonly onRemove: () => void;
  /** Why it stays; then it cannot be pressed. */
  readonly stays?: string | undefined;
}

/** Takes a line out of a table. */
export const RemoveButton = ({ what, onRemove, stays }: Props) => (
  <button
    type="button"
    className="btn btn-ghost btn-xs btn-square"
    aria-label={`Remove ${what}`}
    title={stays}
    disabled={stays !== undefined}
    onClick={onRemove}
  >
    <X size={12} aria-hidden="true" />
  </button>
);
