import { CalendarDays } from "lucide-react";
import { lazy, Suspense, useRef, useState } from "react";
import { untilFetched } from "../messages/untilFetched.ts";

const Calendar = lazy(() => untilFetched(() => import("./Calendar.tsx")));

interface Props {
  /** `YYYY-MM-DD`, or empty. */
  readonly value: string;
  readonly max?: string | undefined;
  readonly disabled?: boolean;
  readonly onDate: (date: string) => void;
}

const GAP = 4;
const [WIDTH, HEIGHT] = [300, 292];

/**
 * A calendar beside a date field. It lies above everything, and closes by Escape, by a press beside it and once a day
 * was chosen.
 */
export function DatePick({ value, max, disabled = false, onDate }: Props) {
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const popover = useRef<HTMLDivElement>(null);
  const show = (): void => {
    const at = button.current!.getBoundingClientRect();
    const { style } = popover.current!;
    style.left = `${Math.max(GAP, Math.min(at.left, innerWidth - WIDTH - GAP))}px`;
    style.top =
      at.bottom + HEIGHT + GAP > innerHeight && at.top > HEIGHT ? `${at.top - HEIGHT - GAP}px` : `${at.bottom + GAP}px`;
    popover.current!.showPopover();
  };
  const choose = (date: string): void => {
    popover.current!.hidePopover();
    button.current!.focus();
    if (date !== value) onDate(date);
  };
  return (
    <>
      <button
        ref={button}
        type="button"
        className="inline-flex min-h-[24px] min-w-[24px] shrink-0 items-center justify-center cursor-pointer hover:bg-base-200 disabled:cursor-default disabled:opacity-50"
        aria-label="Select from a calendar"
        title="Select from a calendar"
        aria-haspopup="dialog"
        aria-expanded={open}
        disabled={disabled}
        onClick={show}
      >
        <CalendarDays size={14} aria-hidden="true" />
      </button>
      <div
        ref={popover}
        popover="auto"
        role="dialog"
        aria-label="A calendar"
        className="date-pick"
        onToggle={(event) => setOpen(event.newState === "open")}
      >
        {open && (
          <Suspense
            fallback={
              <p className="muted text-sm" role="status">
                Loading …
              </p>
            }
          >
            <Calendar value={value} max={max} onDate={choose} />
          </Suspense>
        )}
      </div>
    </>
  );
}
