/** Whether a text may be a currency code (ISO 4217). */
export const isCurrency = (text: string): boolean => /^[A-Z]{3}$/.test(text);

/** The currency in which a project counts. */
export const CurrencyField = ({
  value,
  onChange,
}: {
  readonly value: string;
  readonly onChange: (to: string) => void;
}) => (
  <label className="flex flex-col text-sm">
    Currency
    <input
      className="input input-sm w-20"
      required
      pattern="[A-Z]{3}"
      title="three capital letters, as EUR"
      value={value}
      onChange={(event) => onChange(event.target.value.toUpperCase().slice(0, 3))}
    />
  </label>
);
