import { useEffect, useState } from "react";
import { Toaster, useSonner } from "sonner";
import { messagesShown } from "./toast.ts";

const GAP = 16;

/** Messages as they come, at the foot of the page. */
export default function ShownMessages() {
  useEffect(messagesShown, []);
  return (
    <Toaster
      position="bottom-right"
      offset={GAP}
      mobileOffset={GAP}
      toastOptions={{
        style: {
          background: "var(--bar-ground)",
          color: "var(--bar-ink)",
          border: "1px solid var(--bar-brass)",
          borderRadius: "2px",
          fontFamily: "var(--font-sans)",
        },
      }}
    />
  );
}

/** As much room as the message in front takes. */
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
