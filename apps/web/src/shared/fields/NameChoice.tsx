import { CallNames } from "@chronometra/core";
import { useEffect, useId, useMemo, useRef, useState } from "react";

interface Props {
  readonly label: string;
  readonly things: readonly { readonly id: string; readonly name: string }[];
  readonly onChoose: (id: string | null) => void;
  readonly width?: string;
}

/** Chooses one thing by typing its name, also before the things have arrived; those of one name are told apart. */
export function NameChoice({ label, things, onChoose, width = "w-64" }: Props) {
  const list = useId();
  const [text, setText] = useState("");
  const names = useMemo(() => new CallNames(things), [things]);
  const found = names.findWhole(text.trim());
  const chosen = "id" in found ? found.id : null;
  const told = useRef<string | null>(null);
  useEffect(() => {
    if (chosen === told.current) return;
    told.current = chosen;
    onChoose(chosen);
  });
  return (
    <>
      <input
        className={`input input-sm ${width}`}
        aria-label={label}
        placeholder={label}
        list={list}
        value={text}
        aria-invalid={text !== "" && chosen === null}
        onChange={(event) => setText(event.target.value)}
      />
      <datalist id={list}>
        {things.map(({ id }) => (
          <option key={id} value={names.of(id)} />
        ))}
      </datalist>
    </>
  );
}
