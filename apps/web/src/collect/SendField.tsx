import { useState, type FormEvent } from "react";

interface Props {
  readonly label: string;
  readonly placeholder: string;
  readonly width: string;
  readonly action: string;
  readonly pending: boolean;
  readonly failure: string | null;
  /** Sends what was typed; gives what is wrong with it, or nothing. */
  readonly onSend: (text: string, clear: () => void) => string | null;
}

/** One field that is sent with Enter; what cannot be read stays, with the reason. */
export function SendField({ label, placeholder, width, action, pending, failure, onSend }: Props) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState<string | null>(null);
  const send = (event: FormEvent): void => {
    event.preventDefault();
    if (text.trim() !== "") setFault(onSend(text, () => setText("")));
  };
  const wrong = fault ?? failure;
  return (
    <form onSubmit={send} className="flex flex-col">
      <span className="flex">
        <input className={`input input-sm ${width}`} aria-label={label} placeholder={placeholder} value={text} aria-invalid={wrong !== null} onChange={(event) => { setText(event.target.value); setFault(null); }} />
        <button className="btn btn-sm -ml-px" disabled={pending || text.trim() === ""} aria-label={`${action}: ${label}`}>{action}</button>
      </span>
      {wrong !== null && <span role="alert" className="adverse max-w-64 text-sm">{wrong}</span>}
    </form>
  );
}
