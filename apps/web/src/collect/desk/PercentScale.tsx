interface Props {
  readonly name: string;
  /** As it was last said or accepted; `null` for never. */
  readonly percent: number | null;
  readonly pending: boolean;
  readonly onPercent: (percent: number) => void;
}

const MARKS = [0, 10, 20, 30, 40, 50, 60, 70, 80, 90, 100] as const;

/** A scale from 0 to 100% that is set by one touch. */
export function PercentScale({ name, percent, pending, onPercent }: Props) {
  return (
    <div role="group" aria-label={`Percent done of ${name}`} className="inline-flex items-end">
      {MARKS.map((mark) => {
        const reached = percent !== null && mark <= percent;
        return (
          <button
            key={mark}
            type="button"
            disabled={pending}
            aria-label={`${mark}% done`}
            aria-pressed={percent === mark}
            title={`${mark}% done`}
            className="group flex h-7 w-[25px] cursor-pointer flex-col items-center justify-end disabled:cursor-wait"
            onClick={() => onPercent(mark)}
          >
            <span
              aria-hidden="true"
              className={`w-px ${mark % 50 === 0 ? "h-3.5" : "h-2"} ${reached ? "bg-current" : "bg-current opacity-40"} group-hover:w-0.5`}
            />
            <span
              aria-hidden="true"
              className={`w-full border-t-[3px] ${reached && mark > 0 ? "border-accent" : "border-base-300"}`}
            />
            <span aria-hidden="true" className="muted text-[11px] leading-3 group-hover:text-current">
              {mark % 50 === 0 || percent === mark ? mark : "\u00a0"}
            </span>
          </button>
        );
      })}
    </div>
  );
}
