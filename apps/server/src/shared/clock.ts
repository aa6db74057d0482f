/** The local day of an instant, `YYYY-MM-DD`. */
export function dateOf(at: Date): string {
  return `${at.getFullYear()}-${String(at.getMonth() + 1).padStart(2, "0")}-${String(at.getDate()).padStart(2, "0")}`;
}

/** Today by this machine's clock, `YYYY-MM-DD`. */
export const today = (): string => dateOf(new Date());

/** The day after a date `YYYY-MM-DD`. */
export function dayAfter(date: string): string {
  const next = new Date(`${date}T00:00:00Z`);
  next.setUTCDate(next.getUTCDate() + 1);
  return next.toISOString().slice(0, 10);
}
