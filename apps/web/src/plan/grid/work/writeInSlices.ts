import { writeBlock, type Written } from "./blocks.ts";

const SLICE = 250;

/** As `writeBlock`, in slices between which the page can draw and take keys. */
export async function writeInSlices(
  texts: readonly (readonly string[])[],
  target: Parameters<typeof writeBlock>[1],
): Promise<Written> {
  const whole: Written & { added: number } = { changes: [], asked: [], faults: [], added: 0 };
  for (let at = 0; at < texts.length; at += SLICE) {
    if (at > 0) await new Promise((resolve) => setTimeout(resolve, 0));
    const before = whole.added;
    const slice = writeBlock(texts.slice(at, at + SLICE), {
      ...target,
      top: target.top + at,
      first: at,
      newId: (n) => target.newId(before + n),
    });
    whole.changes.push(...slice.changes);
    whole.asked.push(...slice.asked);
    whole.faults.push(...slice.faults);
    whole.added += slice.added;
  }
  return whole;
}
