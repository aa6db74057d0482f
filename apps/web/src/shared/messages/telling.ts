import { toast } from "./toast.ts";

/**
 * Does something that may be refused where no field stands to say why beside it: it is told at the foot of the page.
 */
export const telling =
  <A extends unknown[]>(act: (...args: A) => Promise<string | null> | string | null) =>
  (...args: A): void =>
    void Promise.resolve(act(...args)).then((fault) => fault !== null && toast.error(`Not stored: ${fault}`));
