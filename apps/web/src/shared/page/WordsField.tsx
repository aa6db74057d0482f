interface Props {
  /** What is looked for, for those who cannot see the field. */
  readonly label: string;
  readonly value: string;
  readonly onWords: (words: string) => void;
  readonly width?: string;
}

/** Words that the name or the branch of what is shown has. */
export const WordsField = ({ label, value, onWords, width = "w-48" }: Props) => (
  <input
    type="search"
    className={`input input-sm ${width}`}
    aria-label={label}
    placeholder="name or branch"
    value={value}
    onChange={({ target }) => onWords(target.value)}
  />
);
