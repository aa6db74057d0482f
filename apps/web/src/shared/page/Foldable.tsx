import { ChevronDown, ChevronRight } from "lucide-react";
import { useId, useState, type ReactNode } from "react";
import { keepPreference, preference } from "../session/preferences.ts";

interface Props {
  /** What is folded away, as it is called on the page. */
  readonly name: string;
  /** The place it has, so that it is remembered for this person: one word for each page that has one. */
  readonly place: string;
  /** Whether it is folded for those who have never turned it. */
  readonly foldedAtFirst?: boolean;
  readonly children: ReactNode;
}

/** A part of a page that gives its room to what stands below once it is folded; on paper it is there all the same. */
export function Foldable({ name, place, foldedAtFirst = false, children }: Props) {
  const key = `folded.${place}`;
  const [folded, setFolded] = useState((preference(key) ?? (foldedAtFirst ? "yes" : "no")) === "yes");
  const part = useId();
  const turn = (): void => {
    setFolded(!folded);
    keepPreference(key, folded ? "no" : "yes");
  };
  return (
    <section aria-label={name} className="pt-1">
      <button
        type="button"
        className="muted flex min-h-[24px] cursor-pointer items-center gap-0.5 text-xs print:hidden"
        aria-expanded={!folded}
        aria-controls={part}
        title={folded ? `Show: ${name}` : `Fold: ${name}`}
        onClick={turn}
      >
        {folded ? <ChevronRight size={13} aria-hidden="true" /> : <ChevronDown size={13} aria-hidden="true" />}
        {name}
      </button>
      <div id={part} className={folded ? "hidden print:block" : ""}>
        {children}
      </div>
    </section>
  );
}
