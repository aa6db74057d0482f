/** The steps of a reporting period, in their order. */
export const CYCLE_STEPS = ["Collect", "Chase", "Review", "Recalculate", "Check", "Explain", "Issue", "Lock"] as const;
export type CycleStep = (typeof CYCLE_STEPS)[number];

/** What is looked at before a project's period is locked. */
interface Lockable {
  readonly missing: readonly unknown[];
  readonly findings: readonly unknown[];
  /** `null` where nobody has. */
  readonly checked: unknown;
  /** Limits that are broken, each with its explanation or `null`. */
  readonly broken: readonly { readonly explanation: unknown }[];
}

/** What of a period falls short in a project though it can be locked, in words: who is missing, what was not checked or explained. */
export function shortfalls({ missing, findings, checked, broken }: Lockable): string[] {
  const unexplained = broken.filter(({ explanation }) => explanation === null).length;
  const people = missing.length === 1 ? "1 person has not reported" : `${missing.length} people have not reported`;
  return [
    ...(missing.length > 0 ? [people] : []),
    ...(checked === null
      ? [
          findings.length === 0
            ? "nobody has checked it"
            : `nobody has looked at ${findings.length === 1 ? "a finding" : `${findings.length} findings`}`,
        ]
      : []),
    ...(unexplained > 0
      ? [`${unexplained === 1 ? "a broken limit is" : `${unexplained} broken limits are`} not explained`]
      : []),
  ];
}
