import { useEffect, useRef, useState, type ComponentType } from "react";
import { flushSync } from "react-dom";
import type { ChartProps } from "./Chart.tsx";
import { isHandheld } from "./InView.tsx";

type Drawing = ComponentType<ChartProps>;

/** A chart that is fetched and drawn once it comes into view, or goes on paper; until then its room is kept. */
export function ChartInView(props: ChartProps) {
  const room = useRef<HTMLParagraphElement>(null);
  const [Chart, setChart] = useState<Drawing | null>(null);
  const [fault, setFault] = useState(false);
  const wanted = Chart === null && !fault;
  useEffect(() => {
    if (!wanted) return undefined;
    let drawing: Drawing | null = null;
    const fetched = async (): Promise<Drawing> => (drawing ??= (await import("./Chart.tsx")).default);
    const draw = (): void =>
      void fetched().then(
        (it) => setChart(() => it),
        () => setFault(true),
      );
    // What is further down is fetched when there is nothing else to do, so that it is at hand when the page goes on
    // paper.
    const idle = isHandheld() ? null : requestIdleCallback(() => void fetched().catch(() => undefined));
    const watching = new IntersectionObserver(
      (entries) => entries.some(({ isIntersecting }) => isIntersecting) && draw(),
    );
    watching.observe(room.current!);
    const onPaper = (): void => {
      if (drawing !== null) flushSync(() => setChart(() => drawing));
    };
    addEventListener("beforeprint", onPaper);
    return () => {
      if (idle !== null) cancelIdleCallback(idle);
      watching.disconnect();
      removeEventListener("beforeprint", onPaper);
    };
  }, [wanted]);
  if (Chart !== null) return <Chart {...props} />;
  const { height = "h-60", words } = props;
  return (
    <p
      ref={room}
      role="status"
      className={`muted text-sm ${typeof height === "string" ? height : ""}`}
      style={typeof height === "number" ? { height } : undefined}
    >
      {fault ? (
        <>
          The chart could not be fetched.{" "}
          <button type="button" className="underline cursor-pointer" onClick={() => setFault(false)}>
            Try again
          </button>
        </>
      ) : (
        <>
          <span className="print:hidden">Drawing …</span>
          <span className="hidden print:inline">{words}</span>
        </>
      )}
    </p>
  );
}
