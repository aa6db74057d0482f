/** A row seen as its fields. */
export type Loose = Record<string, unknown>;

/** Whether two values say the same. */
export const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** The same value with its keys in order, so that two writers of one value agree. */
function ordered(value: unknown): unknown {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, each]) => each !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([key, each]) => [key, ordered(each)]),
  );
}

/** What a field means where it is left out, so that writing it down is no difference. */
const DEFAULTS: Readonly<Loose> = {
  kind: "work",
  driver: "duration",
  windowPolicy: "hold",
  parked: false,
  type: "FS",
  lagMinutes: 0,
  lagIn: "successor",
  unitsPercent: 100,
  timing: "even",
  minorDigits: 2,
  logic: "retained",
  criticalFloatMinutes: 0,
  tightDays: 5,
  dayMinutes: 480,
  percent: 0,
  exceptions: [],
  rates: [],
};
const DEFAULT_CREDIT = { rule: "reported" };

/** What a row says in a field, or means by leaving it out. */
export function valueOf(row: Loose, field: string): unknown {
  const value = row[field] ?? (field === "credit" ? DEFAULT_CREDIT : field in DEFAULTS ? DEFAULTS[field] : undefined);
  return ordered(value) ?? null;
}

/** Names of the fields in which two rows differ. */
export const differing = (a: Loose, b: Loose, apart: readonly string[] = []): string[] =>
  [...new Set([...Object.keys(a), ...Object.keys(b)])].filter(
    (name) => !apart.includes(name) && !same(valueOf(a, name), valueOf(b, name)),
  );

/** Whether two rows say the same in every field. */
export const sameFields = (a: Loose, b: Loose): boolean => differing(a, b).length === 0;
