import { ChevronLeft, ChevronRight } from "lucide-react";
import type { ReactNode } from "react";
import { dateWords } from "../shared/words/words.ts";
import { shiftDays } from "./weekSums.ts";
import { ToolButton } from "../shared/fields/ToolButton.tsx";

interface Props {
  readonly title: string;
  /** The Monday of the week shown. */
  readonly from: string;
  readonly onGo: (date: string) => void;
  readonly children?: ReactNode;
}

/** Which week is shown, and the way to others. */
export function WeekSteps({ title, from, onGo, children }: Props) {
  return (
    <div className="mb-1 flex flex-wrap items-center gap-2">
      <h1 className="text-xl">{title}</h1>
      <ToolButton icon={ChevronLeft} name="The week before" onClick={() => onGo(shiftDays(from, -7))} />
      <span>
        {dateWords(from)} to {dateWords(shiftDays(from, 6))}
      </span>
      <ToolButton icon={ChevronRight} name="The week after" onClick={() => onGo(shiftDays(from, 7))} />
      {children}
    </div>
  );
}
