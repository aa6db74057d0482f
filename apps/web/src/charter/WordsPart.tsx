import { HOUSE_WORDS, WORDED, type CharterView, type Worded } from "@chronometra/contract";
import { Named } from "../shared/fields/Named.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import type { Charterer } from "./useCharter.ts";
import { SeenField } from "./Written.tsx";

interface Props {
  readonly view: CharterView;
  readonly charterer: Charterer;
}

const PRIORITIES: readonly Worded[] = ["high", "middle", "low"];
const nameOf = (of: Worded): string =>
  PRIORITIES.includes(of) ? `Priority ${HOUSE_WORDS[of]}` : `Activity ${HOUSE_WORDS[of]}`;

/** What a state or a priority is called here; cleared, it is called as everywhere. */
function OwnWord({ view, charterer, of }: Props & { of: Worded }) {
  const value = view.charter.words[of] ?? null;
  const name = nameOf(of);
  const house = HOUSE_WORDS[of];
  if (!view.mayEdit) return <Named name={name}>{value ?? house}</Named>;
  const write = (was: string | null, typed: string): Promise<string | null> => {
    const word = typed === "" || typed === house ? null : typed;
    const words = `“${house}” is called “${word ?? house}” in this project.`;
    return charterer.write({ field: "words", id: of, was, value: word }, words);
  };
  return <SeenField {...{ name, value }} width="w-56" placeholder={house} shown={value ?? ""} onWrite={write} />;
}

/** What this project calls states and priorities; folded while it calls them nothing of its own. */
export function WordsPart(props: Props) {
  const own = Object.keys(props.view.charter.words).length > 0;
  if (!own && !props.view.mayEdit) return null;
  return (
    <section className="pt-4">
      <Foldable name="Words of its own" place="ownWords" foldedAtFirst={!own}>
        <p className="muted max-w-prose pb-1 text-sm">
          On the pages of this project and on the desks of its people. Where several projects stand together, all are
          called alike.
        </p>
        <div className="grid grid-cols-1 gap-x-12 lg:grid-cols-2">
          {WORDED.map((of) => (
            <OwnWord key={of} {...props} of={of} />
          ))}
        </div>
      </Foldable>
    </section>
  );
}
