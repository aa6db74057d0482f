/** A number of 0 or more that someone typed, with a point or a comma; `null` of what is none. */
export function numberTyped(text: string): number | null {
  const plain = text.trim().replace(",", ".");
  const value = plain === "" ? Number.NaN : Number(plain);
  return Number.isFinite(value) && value >= 0 ? value : null;
}
