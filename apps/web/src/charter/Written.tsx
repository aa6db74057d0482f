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

interface SeenFieldProps<T> {
  readonly name: string;
  readonly width: string;
  readonly placeholder?: string;
  /** What stands there, and as it is shown. */
  readonly value: T;
  readonly shown: string;
  /** Writes what was typed over what stood there when its writer began; gives why it cannot be, or nothing. */
  readonly onWrite: (was: T, text: string) => Promise<string | null>;
}

/** A field of one line that says what its writer saw. */
export function SeenField<T>({ name, value, shown, onWrite, ...looks }: SeenFieldProps<T>) {
  const seen = useSeen(value);
  return (
    <Named name={name}>
      <span onInput={seen.begin}>
        <CommitField
          {...looks}
          label={name}
          value={shown}
          onCommit={async (text) => {
            const answer = await onWrite(seen.was(), text.trim());
            seen.end();
            return answer;
          }}
        />
      </span>
    </Named>
  );
}

/** A short text of the charter. */
export function ShortText({ view, charterer, field, name }: Props) {
  const value = view.charter[field];
  if (!view.mayEdit) return <Named name={name}>{value === "" ? <span className="muted">–</span> : value}</Named>;
  return (
    <SeenField
      {...{ name, value }}
      width="w-80"
      shown={value}
      onWrite={(was, text) => charterer.write({ field, was, value: text }, `${name} is written.`)}
    />
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
