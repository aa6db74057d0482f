import { useEffect, useState } from "react";
import { useSonner } from "sonner";

const GAP = 16;

/** Below a page, while a message is told: as much room as it takes, so that it covers nothing that can be pressed. */
export function MessageRoom() {
  const { toasts } = useSonner();
  const [height, setHeight] = useState(0);
  useEffect(() => {
    // A message is as high as its words make it; that is known once it is drawn.
    const drawn = requestAnimationFrame(() => {
      const front = document.querySelector<HTMLElement>("[data-sonner-toast][data-front='true']");
      setHeight(toasts.length === 0 || front === null ? 0 : front.offsetHeight + 2 * GAP);
    });
    return () => cancelAnimationFrame(drawn);
  }, [toasts]);
  return <div aria-hidden="true" className="shrink-0" style={{ height }} />;
}
