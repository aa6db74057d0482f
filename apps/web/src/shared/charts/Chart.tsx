import { BarChart, LineChart, ScatterChart } from "echarts/charts";
import {
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
} from "echarts/components";
import { init, use as register, type EChartsCoreOption, type EChartsType } from "echarts/core";
import { SVGRenderer } from "echarts/renderers";
import { ImageDown } from "lucide-react";
import { toast } from "../messages/toast.ts";
import { useEffect, useRef, type KeyboardEvent } from "react";
import { useTheme } from "./theme.ts";
import { drawPictures, PICTURE_FORMS, type PictureForm } from "./pictures.ts";
import { saveFile } from "../files/saveFile.ts";

register([
  BarChart,
  LineChart,
  ScatterChart,
  GridComponent,
  LegendComponent,
  MarkAreaComponent,
  MarkLineComponent,
  TooltipComponent,
  SVGRenderer,
]);

/** What a chart is drawn with: the theme's colours by the name of their variable, and its text. */
export interface Inks {
  readonly of: (variable: string) => string;
  readonly text: { readonly color: string; readonly fontFamily: string; readonly fontSize: number };
}

export interface ChartProps {
  /** Names the picture that is saved. */
  readonly name: string;
  /** Says in a sentence what the chart shows; the table beside it says the rest. */
  readonly words: string;
  /** A class, or pixels. */
  readonly height?: string | number;
  /** Keep it the same from one drawing to the next, as from `useCallback`. */
  readonly option: (inks: Inks) => EChartsCoreOption;
  readonly onPoint?: (seriesName: string, dataIndex: number) => void;
}

/** The inks of the page as it is, or of a part of it that has a theme of its own. */
function inks(part: Element = document.documentElement): Inks {
  const style = getComputedStyle(part);
  const of = (variable: string): string => style.getPropertyValue(variable).trim();
  return {
    of,
    text: { color: of("--color-base-content"), fontFamily: "'Source Sans 3 Variable', sans-serif", fontSize: 12 },
  };
}

/** How many points a series has, by its place; silent ones, which stand last, have nothing to say. */
const lengths = (chart: EChartsType): number[] =>
  ((chart.getOption()["series"] ?? []) as { data?: unknown[]; silent?: boolean }[])
    .filter(({ silent }) => silent !== true)
    .map(({ data }) => data?.length ?? 0);

/**
 * A chart in the theme's ink. Arrow keys go from point to point and say what is there; it can be saved as a picture.
 */
export default function Chart({ name, words, height = "h-60", option, onPoint }: ChartProps) {
  const holder = useRef<HTMLDivElement>(null);
  const chart = useRef<EChartsType | null>(null);
  const at = useRef({ series: 0, point: -1 });
  const theme = useTheme();
  useEffect(() => {
    const drawn = init(holder.current!, null, { renderer: "svg" });
    const draw = (ink: Inks): void => drawn.setOption({ animation: false, textStyle: ink.text, ...option(ink) });
    draw(inks());
    if (onPoint !== undefined) drawn.on("click", (event) => onPoint(String(event.seriesName ?? ""), event.dataIndex));
    chart.current = drawn;
    // A size in user units, so that paper can make narrower what is drawn.
    const sized = (): void => {
      const svg = holder.current?.querySelector("svg");
      svg?.setAttribute("viewBox", `0 0 ${drawn.getWidth()} ${drawn.getHeight()}`);
      svg?.style.setProperty("max-width", `${drawn.getWidth()}px`);
    };
    sized();
    const watching = new ResizeObserver(() => {
      // Paper has widths of its own; what is on the screen stays as it is drawn.
      if (matchMedia("print").matches) return;
      // Told of the size that it begins with as well, and once more as it leaves the page.
      if (holder.current === null) return;
      const { clientWidth, clientHeight } = holder.current;
      if (clientWidth === drawn.getWidth() && clientHeight === drawn.getHeight()) return;
      drawn.resize();
      sized();
    });
    watching.observe(holder.current!);
    const onPaper = (): void => {
      const light = document.createElement("div");
      light.dataset["theme"] = "enamel";
      document.body.append(light);
      draw(inks(light));
      light.remove();
    };
    const onScreen = (): void => draw(inks());
    addEventListener("beforeprint", onPaper);
    addEventListener("afterprint", onScreen);
    return () => {
      watching.disconnect();
      removeEventListener("beforeprint", onPaper);
      removeEventListener("afterprint", onScreen);
      drawn.dispose();
      chart.current = null;
    };
  }, [option, onPoint, theme]);
  const move = (event: KeyboardEvent): void => {
    const step = { ArrowRight: [0, 1], ArrowLeft: [0, -1], ArrowDown: [1, 0], ArrowUp: [-1, 0] }[event.key];
    if (event.key === "Escape") chart.current?.dispatchAction({ type: "hideTip" });
    if (step === undefined || chart.current === null) return;
    event.preventDefault();
    const many = lengths(chart.current);
    const series = Math.min(Math.max(0, at.current.series + step[0]!), many.length - 1);
    const point = Math.min(Math.max(0, at.current.point + step[1]!), (many[series] ?? 1) - 1);
    at.current = { series, point };
    chart.current.dispatchAction({ type: "showTip", seriesIndex: series, dataIndex: point });
  };
  const save = async (form: PictureForm): Promise<void> => {
    const svg = holder.current?.querySelector("svg");
    if (svg == null) return;
    try {
      const picture = await drawPictures([svg], name.toLowerCase().replace(/\W+/g, "-"), form);
      saveFile(picture!.name, picture!.data, picture!.type);
    } catch (error) {
      toast.error(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <figure className="relative">
      <div
        ref={holder}
        role="img"
        aria-label={words}
        tabIndex={0}
        onKeyDown={move}
        className={`w-full ${typeof height === "string" ? height : ""}`}
        style={typeof height === "number" ? { height } : undefined}
      />
      <details className="absolute top-0 right-0 print:hidden">
        <summary
          className="btn btn-ghost btn-xs list-none"
          title="Save as a picture"
          aria-label={`Save ${name} as a picture`}
        >
          <ImageDown size={14} aria-hidden="true" />
        </summary>
        <ul className="absolute right-0 z-30 mt-1 w-44 border rule bg-base-100 py-1">
          {(Object.keys(PICTURE_FORMS) as PictureForm[]).map((form) => (
            <li key={form}>
              <button
                type="button"
                className="block w-full cursor-pointer px-3 py-1 text-left text-sm hover:bg-base-200"
                onClick={(event) => {
                  event.currentTarget.closest("details")!.open = false;
                  void save(form);
                }}
              >
                Picture ({form.toUpperCase()})
              </button>
            </li>
          ))}
        </ul>
      </details>
    </figure>
  );
}
