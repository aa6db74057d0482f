/**
 * How long it waits where a part of the page could not be fetched: without a connection the page goes on, and the part
 * comes later.
 */
const AGAIN_MILLISECONDS = 2_000;

/** Fetches a part of the page, and tries again until it is there. */
export async function untilFetched<T>(fetch: () => Promise<T>): Promise<T> {
  for (;;) {
    try {
      return await fetch();
    } catch {
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MILLISECONDS));
    }
  }
}
