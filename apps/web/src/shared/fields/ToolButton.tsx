import type { LucideIcon } from "lucide-react";

interface Props {
  readonly icon: LucideIcon;
  readonly name: string;
  /** Said by its tip, where that is more than its name. */
  readonly title?: string;
  readonly disabled?: boolean;
  readonly pressed?: boolean;
  readonly onClick: () => void;
}

/** A button that is an icon alone, among others of a page's tools. */
export const ToolButton = ({ icon: Icon, name, title = name, disabled, pressed, onClick }: Props) => (
  <button
    type="button"
    className="btn btn-ghost btn-sm btn-square"
    aria-label={name}
    title={title}
    disabled={disabled}
    aria-pressed={pressed}
    onClick={onClick}
  >
    <Icon size={14} aria-hidden="true" />
  </button>
);
