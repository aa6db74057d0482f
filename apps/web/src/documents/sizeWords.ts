const UNITS = ["B", "kB", "MB"] as const;

/** A number of bytes as people read it: `820 B`, `1.6 MB`. */
export function sizeWords(bytes: number): string {
  let [size, at] = [bytes, 0];
  while (size >= 1000 && at < UNITS.length - 1) [size, at] = [size / 1000, at + 1];
  return `${at === 0 || size >= 100 ? Math.round(size) : size.toFixed(1)} ${UNITS[at]}`;
}
