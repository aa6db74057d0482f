import type { ImportAnswers, ImportView } from "@chronometra/contract";

interface Props {
  readonly view: ImportView;
  readonly onAnswer: (sheets: NonNullable<ImportAnswers["sheets"]>) => void;
}

const GUESS_WORDS = {
  same: "its name",
  words: "words in it",
  cells: "what its cells look like",
  remembered: "as matched before",
  none: "left out",
  byHand: "matched by you",
} as const;

/** What no column of a sheet says, said once for all of its rows. */
function SaidOnce({
  missing: { words, said },
  onSay,
}: {
  missing: ImportView["sheets"][number]["missing"][number];
  onSay: (text: string) => void;
}) {
  return (
    <label className="my-1 flex items-center gap-2 text-sm">
      <span className="undecided">No column says it. {words}, for all of its rows:</span>
      <input
        key={said}
        className="input input-sm w-56"
        defaultValue={said}
        onBlur={(event) => event.target.value !== said && onSay(event.target.value)}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
    </label>
  );
}

/** The sheets and headings of a file, each with the table and column of ours that it is taken for; all can be put right. */
export function Headings({ view, onAnswer }: Props) {
  const inWords = (table: string | null) => view.tables.find((each) => each.table === table);
  const said = view.answers.sheets ?? {};
  return (
    <section className="pt-4">
      <h2 className="pb-1 text-base">Sheets and headings</h2>
      {view.sheets.map((sheet) => (
        <details
          key={sheet.name}
          open={sheet.missing.length > 0 || sheet.headings.some(({ column }) => column === null)}
          className="border-b rule py-1"
        >
          <summary className="cursor-pointer">
            <span className="font-semibold">{sheet.name}</span>{" "}
            <span className="muted text-sm">
              {sheet.rows} rows{sheet.headingRow !== null && `, headings in row ${sheet.headingRow}`}, taken for{" "}
              {inWords(sheet.table)?.words ?? "nothing"}
            </span>
          </summary>
          <label className="my-1 flex items-center gap-2 text-sm">
            This sheet holds
            <select
              className="select select-sm w-56"
              value={sheet.table ?? ""}
              onChange={(event) =>
                onAnswer({ ...said, [sheet.name]: { ...said[sheet.name], table: event.target.value } })
              }
            >
              <option value="">nothing to be taken over</option>
              {view.tables.map(({ table, words }) => (
                <option key={table} value={table}>
                  {words}
                </option>
              ))}
            </select>
          </label>
          {sheet.missing.map((each) => (
            <SaidOnce
              key={each.column}
              missing={each}
              onSay={(text) =>
                onAnswer({
                  ...said,
                  [sheet.name]: { ...said[sheet.name], fixed: { ...said[sheet.name]?.fixed, [each.column]: text } },
                })
              }
            />
          ))}
          {sheet.table !== null && (
            <table className="ledger max-w-4xl" aria-label={`Headings of ${sheet.name}`}>
              <thead>
                <tr>
                  <th>Heading in the file</th>
                  <th>For example</th>
                  <th>Is taken for</th>
                  <th>Because</th>
                </tr>
              </thead>
              <tbody>
                {sheet.headings.map(({ heading, column, guessed, sample }) => (
                  <tr key={heading}>
                    <td>{heading}</td>
                    <td className="muted max-w-64 truncate">{sample.join("; ")}</td>
                    <td>
                      <select
                        className="select select-xs w-52"
                        aria-label={`Column for ${heading}`}
                        value={column ?? ""}
                        onChange={(event) =>
                          onAnswer({
                            ...said,
                            [sheet.name]: {
                              ...said[sheet.name],
                              table: sheet.table!,
                              columns: { ...said[sheet.name]?.columns, [heading]: event.target.value },
                            },
                          })
                        }
                      >
                        <option value="">left out</option>
                        {inWords(sheet.table)?.columns.map((each) => (
                          <option key={each.column} value={each.column}>
                            {each.words}
                          </option>
                        ))}
                      </select>
                    </td>
                    <td className="muted">{GUESS_WORDS[guessed]}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </details>
      ))}
    </section>
  );
}
