import { useMemo } from "react";
import type { Sheet } from "../engine/sheet.ts";

/** The links that are drawn: those among what is lit, or those of the row the keyboard stands on. */
export const useShownLinks = (
  links: Sheet["links"],
  lit: ReadonlySet<string> | null,
  active: string | undefined,
): Sheet["links"] =>
  useMemo(
    () =>
      links.filter(({ from, to }) => (lit === null ? from === active || to === active : lit.has(from) && lit.has(to))),
    [links, lit, active],
  );
