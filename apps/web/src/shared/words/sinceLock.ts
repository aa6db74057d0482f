import type { LockedFigures, ProjectLook } from "@chronometra/contract";
import type { Money } from "@chronometra/core";
import { money, movedWords, ratioWords } from "./words.ts";

type Told = Pick<LockedFigures, "spi" | "cpi" | "drift" | "estimate">;

/** What a project says now, as a locked period said it. */
export const toldOf = ({
  figures,
  drift,
}: {
  readonly figures: { readonly spi: number | null; readonly cpi: number | null; readonly eacBottomUp: number } | null;
  readonly drift: number | null;
}): Told => ({ spi: figures?.spi ?? null, cpi: figures?.cpi ?? null, drift, estimate: figures?.eacBottomUp ?? null });

/** The newest issued period of a project, where it is locked and the data date has not moved on from it. */
export function lockedPeriod({
  periods,
  summary,
}: Pick<ProjectLook, "periods" | "summary">): ProjectLook["periods"][number] | null {
  const last = periods.at(-1);
  return last?.locked === true && last.dataDate === summary.dataDate ? last : null;
}

/** What has changed since a period was locked, a few words each; none where what is shown is the same. */
export function sinceLockWords(locked: Told, now: Told, { minorDigits, currency }: Money): string[] {
  const index = (name: string, then: number | null, is: number | null): string =>
    ratioWords(then) === ratioWords(is) ? "" : `${name} ${ratioWords(then)} → ${ratioWords(is)}`;
  const more = (now.estimate ?? 0) - (locked.estimate ?? 0);
  const days = locked.drift === null || now.drift === null ? 0 : now.drift - locked.drift;
  const moved = movedWords(days, "");
  return [
    moved === "" ? "" : `finish ${moved}`,
    money(Math.abs(more), minorDigits) === "0"
      ? ""
      : `${money(Math.abs(more), minorDigits)} ${currency} ${more > 0 ? "more" : "less"} at completion`,
    index("SPI", locked.spi, now.spi),
    index("CPI", locked.cpi, now.cpi),
  ].filter((words) => words !== "");
}
