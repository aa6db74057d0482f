/** The least time of several runs, in milliseconds: what is slower than that, the machine was busy with something else. */
export async function leastOf(runs: number, work: () => unknown): Promise<number> {
  let least = Infinity;
  for (let i = 0; i < runs; i++) {
    const from = performance.now();
    await work();
    least = Math.min(least, performance.now() - from);
  }
  return least;
}

/** One line of the table: what was measured, its yardstick, and whether it keeps within. */
export interface Line {
  readonly what: string;
  readonly measured: string;
  readonly yardstick: string;
  readonly value: number;
  readonly limit: number;
}

const shown = (value: number): string =>
  value >= 100 ? value.toFixed(0) : value >= 10 ? value.toFixed(1) : value.toFixed(2);

/** A line that compares with a yardstick measured in the same run. */
export const ratioLine = (
  what: string,
  milliseconds: number,
  yardstick: string,
  yardstickMilliseconds: number,
  limit: number,
): Line => ({
  what,
  measured: `${shown(milliseconds)} ms`,
  yardstick: `${yardstick} ${shown(yardstickMilliseconds)} ms`,
  value: milliseconds / yardstickMilliseconds,
  limit,
});

/** A line that keeps below a time. */
export const limitLine = (what: string, milliseconds: number, limitMilliseconds: number): Line => ({
  what,
  measured: `${shown(milliseconds)} ms`,
  yardstick: "milliseconds",
  value: milliseconds,
  limit: limitMilliseconds,
});

export function printLine({ what, measured, yardstick, value, limit }: Line): void {
  const verdict = value <= limit ? "within" : "OVER";
  process.stdout.write(`${what}\n    ${measured}; ${yardstick}; ${shown(value)} of ${limit} allowed, ${verdict}\n`);
}
