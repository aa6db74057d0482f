/** Places dates on a line. */
export interface DateScale {
  readonly from: string;
  readonly to: string;
  readonly width: number;
  readonly xOf: (date: string) => number;
  /** The months that have room for their names. */
  readonly months: readonly { readonly x: number; readonly name: string; readonly year: string | null }[];
}

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
const DAY = 86_400_000;
const dayOf = (date: string): number => Date.parse(`${date}T00:00:00Z`) / DAY;

/** Room that a month's name with its year takes, and how many months may be told by one name. */
const NAMED = 58;
const STEPS = [1, 2, 3, 6, 12, 24, 60, 120] as const;

/** A scale that has all of some dates on it, from the first of a month to the end of one. */
export function dateScale(dates: readonly string[], width: number): DateScale {
  const sorted = [...dates].sort();
  const first = sorted[0] ?? "2026-01-01";
  const last = sorted.at(-1) ?? first;
  const from = `${first.slice(0, 8)}01`;
  const [year, month] = [Number(last.slice(0, 4)), Number(last.slice(5, 7))];
  const to = month === 12 ? `${year + 1}-01-01` : `${year}-${String(month + 1).padStart(2, "0")}-01`;
  const [begin, span] = [dayOf(from), Math.max(1, dayOf(to) - dayOf(from))];
  const xOf = (date: string): number => ((dayOf(date) - begin) / span) * width;
  const months: { x: number; name: string; year: string | null }[] = [];
  const all =
    (Number(to.slice(0, 4)) - Number(from.slice(0, 4))) * 12 + Number(to.slice(5, 7)) - Number(from.slice(5, 7));
  const step = STEPS.find((each) => (each * width) / all >= NAMED) ?? STEPS.at(-1)!;
  let named = "";
  for (
    let y = Number(from.slice(0, 4)), m = Number(from.slice(5, 7));
    `${y}-${String(m).padStart(2, "0")}-01` < to;
    m === 12 ? ((m = 1), y++) : m++
  ) {
    // Months are counted from January of the year 0, so that names stand on January whatever the first month is.
    if ((y * 12 + m - 1) % step !== 0) continue;
    months.push({
      x: xOf(`${y}-${String(m).padStart(2, "0")}-01`),
      name: MONTHS[m - 1]!,
      year: named === String(y) ? null : String(y),
    });
    named = String(y);
  }
  return { from, to, width, xOf, months };
}
