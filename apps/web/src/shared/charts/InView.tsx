import { useEffect, useRef, useState, type ReactNode } from "react";
import { flushSync } from "react-dom";

interface Props {
  /** Height that it is likely to take. */
  readonly pixels: number;
  readonly children: ReactNode;
}

/** Devices without a pointer that hovers are small and slow, and seldom search or print what they do not show. */
export const isHandheld = (): boolean => matchMedia("(hover: none)").matches;

/**
 * A large part of a page further down: where a device is small it is drawn once it is nearly in sight, or goes on
 * paper.
 */
export function InView({ pixels, children }: Props) {
  const room = useRef<HTMLDivElement>(null);
  const [drawn, setDrawn] = useState(() => !isHandheld());
  useEffect(() => {
    if (drawn) return undefined;
    const watching = new IntersectionObserver(
      (entries) => entries.some(({ isIntersecting }) => isIntersecting) && setDrawn(true),
      { scrollMargin: "10% 0px" },
    );
    watching.observe(room.current!);
    const onPaper = (): void => flushSync(() => setDrawn(true));
    addEventListener("beforeprint", onPaper);
    return () => {
      watching.disconnect();
      removeEventListener("beforeprint", onPaper);
    };
  }, [drawn]);
  if (drawn) return children;
  return (
    <div ref={room} role="status" className="muted text-sm" style={{ minHeight: pixels }}>
      Drawing …
    </div>
  );
}
