import { useState, type FormEvent } from "react";

interface Props {
  readonly label: string;
  readonly placeholder: string;
  readonly width: string;
  readonly action: string;
  readonly pending: boolean;
  readonly failure: string | null;
  /** Sends what was typed; gives what is wrong with it and what may have been meant, or nothing. */
  readonly onSend: (text: string, clear: () => void) => string | Wrong | null;
}

/** What is wrong with a text, and one that may have been meant. */
export interface Wrong {
  readonly fault: string;
  readonly offer?: string;
}

/** One field that is sent with Enter; what cannot be read stays, with the reason. */
export function SendField({ label, placeholder, width, action, pending, failure, onSend }: Props) {
  const [text, setText] = useState("");
  const [fault, setFault] = useState<Wrong | null>(null);
  const send = (event: FormEvent): void => {
    event.preventDefault();
    if (text.trim() !== "") take(text);
  };
  const take = (typed: string): void => {
    const answer = onSend(typed, () => setText(""));
    setFault(typeof answer === "string" ? { fault: answer } : answer);
  };
  const offer = fault?.offer;
  const wrong = fault?.fault ?? failure;
  return (
    <form onSubmit={send} className="flex flex-col">
      <span className="flex">
        <input
          className={`input input-sm ${width}`}
          aria-label={label}
          placeholder={placeholder}
          value={text}
          aria-invalid={wrong !== null}
          onChange={(event) => {
            setText(event.target.value);
            setFault(null);
          }}
        />
        <button
          className="btn btn-sm -ml-px"
          disabled={pending || text.trim() === ""}
          aria-label={`${action}: ${label}`}
        >
          {action}
        </button>
      </span>
      {wrong !== null && (
        <span role="alert" className="adverse max-w-64 text-sm">
          {wrong}
          {offer !== undefined && (
            <>
              {" "}
              <button
                type="button"
                className="btn btn-xs"
                onClick={() => {
                  setText(offer);
                  take(offer);
                }}
              >
                {offer}
              </button>
            </>
          )}
        </span>
      )}
    </form>
  );
}
