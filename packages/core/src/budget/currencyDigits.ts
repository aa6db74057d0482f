/**
 * How many digits an amount has behind its whole units (ISO 4217 by way of Unicode's tables); `null` of what is no
 * currency there.
 */
export function currencyDigits(currency: string): number | null {
  try {
    // eslint-disable-next-line no-restricted-syntax -- nothing is written with it: it knows the digits
    const known = new Intl.NumberFormat("en", { style: "currency", currency });
    return known.resolvedOptions().maximumFractionDigits!;
  } catch {
    return null;
  }
}
