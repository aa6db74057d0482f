import { HOUSE_WORDS, WORDED, type CharterView, type Worded } from "@chronometra/contract";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { Named } from "../shared/fields/Named.tsx";
import { Foldable } from "../shared/page/Foldable.tsx";
import { useSeen, type Charterer } from "./useCharter.ts";

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
  const seen = useSeen(value);
  const name = nameOf(of);
  if (!view.mayEdit) return <Named name={name}>{value ?? HOUSE_WORDS[of]}</Named>;
  return (
    <Named name={name}>
      <span onInput={seen.begin}>
        <CommitField
          label={name}
          width="w-56"
          value={value ?? ""}
          placeholder={HOUSE_WORDS[of]}
          onCommit={async (text) => {
            const typed = text.trim();
            const word = typed === "" || typed === HOUSE_WORDS[of] ? null : typed;
            const words = `“${HOUSE_WORDS[of]}” is called “${word ?? HOUSE_WORDS[of]}” in this project.`;
            const answer = await charterer.write({ field: "words", id: of, was: seen.was(), value: word }, words);
            seen.end();
            return answer;
          }}
        />
      </span>
    </Named>
  );
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
