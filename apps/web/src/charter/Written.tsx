import type { CharterField, CharterView } from "@chronometra/contract";
import { CommitField } from "../shared/fields/CommitField.tsx";
import { Named } from "../shared/fields/Named.tsx";
import { CommitText } from "../shared/fields/CommitText.tsx";
import { useSeen, type Charterer } from "./useCharter.ts";

interface Props {
  readonly view: CharterView;
  readonly charterer: Charterer;
  readonly field: Exclude<CharterField, "state">;
  readonly name: string;
}

/** A short text of the charter. */
export function ShortText({ view, charterer, field, name }: Props) {
  const value = view.charter[field];
  const seen = useSeen(value);
  if (!view.mayEdit) return <Named name={name}>{value === "" ? <span className="muted">–</span> : value}</Named>;
  return (
    <Named name={name}>
      <span onInput={seen.begin}>
        <CommitField
          label={name}
          width="w-80"
          value={value}
          onCommit={async (text) => {
            const answer = await charterer.write({ field, was: seen.was(), value: text.trim() }, `${name} is written.`);
            seen.end();
            return answer;
          }}
        />
      </span>
    </Named>
  );
}

/** A long text of the charter: taken on leaving it or with Ctrl+Enter, given up with Escape. */
export function LongText({ view, charterer, field, name, ask }: Props & { ask: string }) {
  const value = view.charter[field];
  const seen = useSeen(value);
  if (!view.mayEdit)
    return (
      <section className="py-2">
        <h3 className="muted font-sans text-sm">{name}</h3>
        <p className="max-w-prose whitespace-pre-wrap">{value === "" ? "–" : value}</p>
      </section>
    );
  return (
    <CommitText
      name={name}
      value={value}
      ask={ask}
      onBegin={seen.begin}
      onGiveUp={seen.end}
      onCommit={async (text) => {
        const answer = await charterer.write({ field, was: seen.was(), value: text }, `${name} is written.`);
        seen.end();
        return answer;
      }}
    />
  );
}
