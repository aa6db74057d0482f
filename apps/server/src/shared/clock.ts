/** The local day of an instant, `YYYY-MM-DD`. */
export function dateOf(at: Date): string {
  return `${at.getFullYear()}-${String(at.getMonth() + 1).padStart(2, "0")}-${String(at.getDate()).padStart(2, "0")}`;
}

/** Today by this machine's clock, `YYYY-MM-DD`. */
export const today = (): string => dateOf(new Date());
