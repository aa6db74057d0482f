import { ChevronRight } from "lucide-react";
import { useEffect, useRef } from "react";
import { Link } from "react-router";
import type { Place, Here } from "./places.ts";

interface Props {
  /** What the places are of, for those who hear them. */
  readonly name: string;
  readonly places: readonly Place[];
  readonly here: Here | null;
  /** The address of a page of a place. */
  readonly addressOf: (to: string) => string;
}

const lookOf = (active: boolean): string =>
  `border-b-2 py-1 whitespace-nowrap ${active ? "border-accent font-semibold" : "border-transparent muted hover:border-base-300"}`;

/** The pages of the place one is in; of a page behind one of them, its name as well. */
function Pages({ place, here, addressOf }: { place: Place; here: Here; addressOf: Props["addressOf"] }) {
  return (
    <nav aria-label={place.name} className="flex items-baseline gap-x-4 md:border-l md:rule md:pl-5">
      {place.pages.map(({ to, name }) => {
        const active = to === here.page.to;
        return (
          <span key={to} className="flex items-baseline gap-1">
            <Link
              to={addressOf(to)}
              className={lookOf(active)}
              aria-current={active && here.behind === null ? "page" : undefined}
            >
              {name}
            </Link>
            {active && here.behind !== null && (
              <span aria-current="page" className="whitespace-nowrap">
                <ChevronRight size={12} className="mr-0.5 inline" aria-hidden="true" />
                {here.behind}
              </span>
            )}
          </span>
        );
      })}
    </nav>
  );
}

/** The places in the order of the work, and beside them the pages of the one that is open. */
export function PlaceRow({ name, places, here, addressOf }: Props) {
  const row = useRef<HTMLDivElement>(null);
  // On a narrow page the row goes on beyond its edge: where one is stays in sight.
  useEffect(() => {
    for (const current of row.current?.querySelectorAll("[aria-current]") ?? [])
      current.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [here?.page.to]);
  const open = here === null ? undefined : places.find(({ pages }) => pages.some(({ to }) => to === here.page.to));
  return (
    <div ref={row} className="flex flex-wrap gap-x-5 bg-base-200 px-5">
      <nav aria-label={name} className="flex min-w-0 gap-x-5 overflow-x-auto">
        {places.map((place) => (
          <Link
            key={place.name}
            to={addressOf(place.pages[0]!.to)}
            className={lookOf(place === open)}
            aria-current={place === open ? (place.pages.length === 1 ? "page" : "true") : undefined}
          >
            {place.name}
          </Link>
        ))}
      </nav>
      {open !== undefined && here !== null && (open.pages.length > 1 || here.behind !== null) && (
        <div className="min-w-0 overflow-x-auto">
          <Pages place={open} here={here} addressOf={addressOf} />
        </div>
      )}
    </div>
  );
}
