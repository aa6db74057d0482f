import { useEffect } from "react";

const PRODUCT = "Chronometra";

/** Says in the browser's title where one is; `null` leaves that to a page further in. */
export function useTitle(place: string | null): void {
  useEffect(() => {
    if (place !== null) document.title = place === "" ? PRODUCT : `${place} · ${PRODUCT}`;
  }, [place]);
}
