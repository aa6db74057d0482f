interface Props {
  readonly label: string;
  readonly word: string;
  readonly onWord: (word: string) => void;
  /** Why it could not be, as the last try was told. */
  readonly fault: string | null;
}

/** A word that goes with what is done at a gate, and what stood in its way. */
export const WordField = ({ label, word, onWord, fault }: Props) => (
  <>
    <label className="flex w-full max-w-3xl flex-col">
      {label}
      <textarea
        className="textarea textarea-sm w-full"
        rows={2}
        maxLength={2000}
        value={word}
        onChange={(event) => onWord(event.target.value)}
      />
    </label>
    {fault !== null && (
      <p role="alert" className="adverse">
        {fault}
      </p>
    )}
  </>
);
