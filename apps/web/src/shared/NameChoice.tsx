import { useId, useState } from "react";

interface Props {
  readonly label: string;
  readonly things: readonly { readonly id: string; readonly name: string }[];
  readonly onChoose: (id: string | null) => void;
  readonly width?: string;
}

/** Chooses one thing by typing its name; names that several bear carry their id. */
export function NameChoice({ label, things, onChoose, width = "w-64" }: Props) {
  const list = useId();
  const [text, setText] = useState("");
  const count = new Map<string, number>();
  for (const { name } of things) count.set(name, (count.get(name) ?? 0) + 1);
  const called = ({ id, name }: Props["things"][number]): string => (count.get(name) === 1 ? name : `${name} #${id}`);
  const chosen = things.find((thing) => called(thing).toLowerCase() === text.trim().toLowerCase());
  return (
    <>
      <input className={`input input-sm ${width}`} aria-label={label} placeholder={label} list={list} value={text} aria-invalid={text !== "" && chosen === undefined} onChange={(event) => { setText(event.target.value); onChoose(things.find((thing) => called(thing).toLowerCase() === event.target.value.trim().toLowerCase())?.id ?? null); }} />
      <datalist id={list}>{things.map((thing) => <option key={thing.id} value={called(thing)} />)}</datalist>
    </>
  );
}
