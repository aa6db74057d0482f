/**
 * Numbers in [0, 1) that come again for the same seed and run: sfc32 (PractRand), its state spread from both by splitmix32.
 * Each run has a stream of its own, so that it does not matter who computes which.
 */
export function randomOf(seed: number, run: number): () => number {
  let mix = (Math.imul(seed, 0x9e3779b1) ^ Math.imul(run + 1, 0x85ebca6b)) | 0;
  const word = (): number => {
    mix = (mix + 0x9e3779b9) | 0;
    let t = mix ^ (mix >>> 16);
    t = Math.imul(t, 0x21f0aaad);
    t ^= t >>> 15;
    t = Math.imul(t, 0x735a2d97);
    return (t ^ (t >>> 15)) | 0;
  };
  let [a, b, c, d] = [word(), word(), word(), word()];
  return () => {
    const t = (((a + b) | 0) + d) | 0;
    d = (d + 1) | 0;
    a = b ^ (b >>> 9);
    b = (c + (c << 3)) | 0;
    c = (c << 21) | (c >>> 11);
    c = (c + t) | 0;
    return (t >>> 0) / 4294967296;
  };
}

/** A number of the standard normal distribution from two even ones (Box and Muller, 1958). */
export const normalOf = (random: () => number): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

/** The standard normal distribution function, to 1.5e-7 (Abramowitz and Stegun, 7.1.26). */
export function normalBelow(x: number): number {
  const z = Math.abs(x) / Math.SQRT2;
  const t = 1 / (1 + 0.3275911 * z);
  const tail =
    t *
    (0.254829592 + t * (-0.284496736 + t * (1.421413741 + t * (-1.453152027 + t * 1.061405429)))) *
    Math.exp(-z * z);
  return x >= 0 ? 1 - tail / 2 : tail / 2;
}

/** Three points of a triangular distribution. */
export interface ThreePoints {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
}

/** The value of a triangular distribution below which a share of it lies. */
export function triangularAt({ low, likely, high }: ThreePoints, share: number): number {
  const width = high - low;
  if (width <= 0) return low;
  const turn = (likely - low) / width;
  return share < turn
    ? low + Math.sqrt(share * width * (likely - low))
    : high - Math.sqrt((1 - share) * width * (high - likely));
}
