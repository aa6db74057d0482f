/** Today by the reader's clock, `YYYY-MM-DD`. */
export function todayHere(): string {
  const now = new Date();
  return `${now.getFullYear()}-${String(now.getMonth() + 1).padStart(2, "0")}-${String(now.getDate()).padStart(2, "0")}`;
}
