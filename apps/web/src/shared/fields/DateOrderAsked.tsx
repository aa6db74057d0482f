import type { DateOrder } from "@chronometra/contract";

const ORDERS: Readonly<Record<DateOrder, string>> = {
  dmy: "day, month, year",
  mdy: "month, day, year",
  ymd: "year, month, day",
};

interface Props {
  readonly order: DateOrder | "";
  readonly onOrder: (order: DateOrder | "") => void;
}

/** Asks in which order the dates of a file are written. */
export function DateOrderAsked({ order, onOrder }: Props) {
  return (
    <label className="flex items-center gap-2 text-sm">
      Its dates are written
      <select
        className="select select-sm w-48"
        value={order}
        onChange={(event) => onOrder(event.target.value as DateOrder | "")}
      >
        <option value="">say in which order</option>
        {Object.entries(ORDERS).map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}
