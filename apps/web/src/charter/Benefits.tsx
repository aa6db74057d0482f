import type { Benefit, CharterView } from "@chronometra/contract";
import { moneyWords } from "@chronometra/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Dialog } from "../shared/dialogs/Dialog.tsx";
import { SaveOrCancel } from "../shared/dialogs/SaveOrCancel.tsx";
import { DateField } from "../shared/fields/DateField.tsx";
import { RemoveButton } from "../shared/fields/RemoveButton.tsx";
import { toast } from "../shared/messages/toast.ts";
import { todayHere } from "../shared/words/today.ts";
import { dateWords } from "../shared/words/words.ts";
import { readAmount } from "../shared/words/amounts.ts";
import { cameOf, moneyLines, NO_BENEFIT, readMoneyLines, rowsOf, sumOf } from "./rows.ts";
import type { Charterer } from "./useCharter.ts";

interface Props {
  readonly view: CharterView;
  readonly charterer: Charterer;
}

/** What was measured of a benefit, to which something is added. */
function Measured({
  measured,
  digits,
  currency,
  onAdd,
}: {
  measured: Benefit["measured"];
  digits: number;
  currency: string;
  onAdd: (one: Benefit["measured"][number]) => void;
}) {
  const [on, setOn] = useState(todayHere());
  const [text, setText] = useState("");
  const [amount, setAmount] = useState("");
  const amountMinor = amount.trim() === "" ? null : readAmount(amount, digits);
  const isAmount = amount.trim() === "" || amountMinor !== null;
  return (
    <fieldset className="text-sm">
      <legend>Measured so far</legend>
      <ul>
        {measured.map((each, i) => (
          <li key={i}>
            {dateWords(each.on)}: {each.text}
            {each.amountMinor !== null && `, ${moneyWords(each.amountMinor, digits)} ${currency}`}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2">
        <DateField label="Measured on" small value={on} onDate={setOn} />
        <input
          className="input input-sm w-60"
          aria-label="What was measured"
          placeholder="what was measured"
          maxLength={300}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <input
          className="input input-sm w-28 text-right"
          aria-label={`${currency} that came since it was measured last, where it is money`}
          aria-invalid={!isAmount}
          placeholder={currency}
          value={amount}
          onChange={(event) => setAmount(event.target.value)}
        />
        <button
          type="button"
          className="btn btn-sm"
          disabled={text.trim() === "" || on === "" || !isAmount}
          onClick={() => {
            onAdd({ on, text: text.trim(), amountMinor });
            setText("");
            setAmount("");
          }}
        >
          Add
        </button>
      </div>
      {isAmount ? (
        <p className="muted">Where it is money, how much came since it was measured last.</p>
      ) : (
        <p role="alert" className="adverse">
          “{amount}” is no amount in {currency}.
        </p>
      )}
    </fieldset>
  );
}

/** One benefit, written as a whole. */
function BenefitDialog({
  was,
  digits,
  currency,
  onWrite,
  onClose,
}: {
  was: Benefit | null;
  digits: number;
  currency: string;
  onWrite: (value: Benefit) => Promise<string | null>;
  onClose: () => void;
}) {
  const [now, setNow] = useState(was ?? NO_BENEFIT);
  const [lines, setLines] = useState(moneyLines(now.money, digits));
  const [fault, setFault] = useState<string | null>(null);
  const text = (field: "what" | "measure" | "target", name: string, ask: string) => (
    <label className="flex flex-col text-sm">
      {name}
      <input
        className="input input-sm"
        placeholder={ask}
        maxLength={field === "what" ? 300 : 200}
        value={now[field]}
        onChange={(event) => setNow({ ...now, [field]: event.target.value })}
      />
    </label>
  );
  return (
    <Dialog title={was === null ? "A benefit that is expected" : "Benefit"} onClose={onClose}>
      <form
        className="flex flex-col gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const money = readMoneyLines(lines, digits);
          if (typeof money === "string") return setFault(money);
          void onWrite({ ...now, money }).then((answer) => (answer === null ? onClose() : setFault(answer)));
        }}
      >
        {text("what", "What comes of it", "fewer days that ships wait")}
        {text("measure", "Measured by", "days a ship waits, average of a year")}
        {text("target", "Target", "2 days instead of 5")}
        <div className="flex flex-col text-sm">
          By when
          <DateField label="By when" small value={now.by ?? ""} onDate={(by) => setNow({ ...now, by })} />
        </div>
        <label className="flex flex-col text-sm">
          Where it is money: {currency} by month or year, a line each
          <textarea
            className="textarea textarea-sm"
            rows={3}
            placeholder={"2027: 12 000\n2028-06: 3 500"}
            value={lines}
            onChange={(event) => setLines(event.target.value)}
          />
        </label>
        {was !== null && (
          <Measured
            {...{ measured: now.measured, digits, currency }}
            onAdd={(one) => setNow({ ...now, measured: [...now.measured, one] })}
          />
        )}
        <SaveOrCancel fault={fault} isReady={now.what.trim() !== ""} onClose={onClose} />
      </form>
    </Dialog>
  );
}

/** What a benefit is to come to in money, and what came of it so far against what was expected by then. */
function InMoney({ benefit, digits }: { benefit: Benefit; digits: number }) {
  const [sum, came] = [sumOf(benefit.money), cameOf(benefit)];
  return (
    <>
      {sum === null ? "–" : moneyWords(sum, digits)}
      {came !== null && (
        <span className="block text-xs">
          <span className={came.cameMinor < came.expectedMinor ? "adverse" : "favourable"}>
            {moneyWords(came.cameMinor, digits)} came
          </span>
          , {moneyWords(came.expectedMinor, digits)} expected by {dateWords(came.on)}
        </span>
      )}
    </>
  );
}

/** What is expected to come of the project, and what was measured of it. */
export function Benefits({ view, charterer }: Props) {
  const [open, setOpen] = useState<{ id: string; was: Benefit | null; told?: true } | null>(null);
  const digits = view.head.minorDigits ?? 2;
  const rows = rowsOf(view.charter.benefits);
  const write = (id: string, was: Benefit | null, value: Benefit | null, words: string) =>
    charterer.write({ field: "benefits", id, was, value }, words);
  return (
    <section className="pt-4">
      <h2 className="pb-1 text-base">Benefits expected</h2>
      {rows.length === 0 ? (
        <p className="muted text-sm">None is written down yet.</p>
      ) : (
        <table className="ledger max-w-5xl" aria-label="Benefits">
          <thead>
            <tr>
              <th>What</th>
              <th>Measured by</th>
              <th>Target</th>
              <th>By</th>
              <th className="text-right">{view.head.currency} in all</th>
              <th>Last measured</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {rows.map(({ id, row }) => {
              const last = row.measured.at(-1);
              return (
                <tr key={id}>
                  <td className="max-w-72">
                    {view.mayEdit ? (
                      <button
                        type="button"
                        className="link-quiet cursor-pointer text-left"
                        onClick={() => setOpen({ id, was: row })}
                      >
                        {row.what}
                      </button>
                    ) : (
                      row.what
                    )}
                  </td>
                  <td>{row.measure || "–"}</td>
                  <td>{row.target || "–"}</td>
                  <td className="whitespace-nowrap">{row.by === null ? "–" : dateWords(row.by)}</td>
                  <td className="text-right" title={moneyLines(row.money, digits)}>
                    <InMoney benefit={row} digits={digits} />
                  </td>
                  <td>{last === undefined ? "not yet" : `${last.text} (${dateWords(last.on)})`}</td>
                  <td>
                    {view.mayEdit && (
                      <RemoveButton
                        what={`the benefit ${row.what}`}
                        onRemove={() =>
                          void write(id, row, null, `“${row.what}” is removed.`).then(
                            (fault) => fault !== null && toast.error(fault),
                          )
                        }
                      />
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
      {view.mayEdit && (
        <button
          type="button"
          className="btn btn-xs mt-1"
          onClick={() => setOpen({ id: crypto.randomUUID(), was: null })}
        >
          <Plus size={12} aria-hidden="true" /> Add a benefit
        </button>
      )}
      {open !== null && (
        <BenefitDialog
          key={open.id}
          was={open.was}
          digits={digits}
          currency={view.head.currency}
          onWrite={async (value) => {
            // Whoever was told of another's word writes over it knowingly.
            const was = open.told === true ? (view.charter.benefits[open.id] ?? null) : open.was;
            const fault = await write(open.id, was, value, `“${value.what}” is written.`);
            if (fault !== null) setOpen({ ...open, told: true });
            return fault;
          }}
          onClose={() => setOpen(null)}
        />
      )}
    </section>
  );
}
