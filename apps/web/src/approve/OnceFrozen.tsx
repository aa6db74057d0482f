import { useQuery } from "@tanstack/react-query";
import { Failure } from "../shared/dialogs/Failure.tsx";
import { Toned } from "../shared/dialogs/Toned.tsx";
import { countWords, dateWords, money, ratioWords, varianceTone, varianceWords } from "../shared/words/words.ts";
import { frozenQuery } from "./queries.ts";

const SHOWN = 5;

/** What approving a state of a plan would make of its figures at once, before anything more is done. */
export function OnceFrozen({ project, state }: { project: string; state: string }) {
  const query = useQuery(frozenQuery(project, state));
  if (query.error !== null) return <Failure error={query.error} />;
  if (query.data == null) return null;
  const { before, after, past, minorDigits: digits, currency, dataDate } = query.data;
  const sv = (value: number) => (
    <Toned tone={varianceTone(value)}>{varianceWords(value, digits, "behind", "ahead")}</Toned>
  );
  if (before !== null && before.pv === after.pv && before.ev === after.ev)
    return <p className="muted text-sm">Approved, its figures as of {dateWords(dataDate)} stay as they are.</p>;
  return (
    <div className="text-sm">
      <p>
        Approved, it is at once measured so, as of {dateWords(dataDate)}:{" "}
        {before !== null && (
          <>
            {sv(before.sv)}, SPI {ratioWords(before.spi)} →{" "}
          </>
        )}
        {sv(after.sv)}, SPI {ratioWords(after.spi)}, in {currency}.
      </p>
      {past.length > 0 && (
        <p className="undecided">
          {countWords(
            past.length,
            "activity that is not finished has its",
            "activities that are not finished have their",
          )}{" "}
          approved finish in the past:{" "}
          {past
            .slice(0, SHOWN)
            .map(
              ({ name, finish, pvMinor }) =>
                `${name}, ${dateWords(finish)}, ${money(pvMinor, digits)} more planned value`,
            )
            .join("; ")}
          {past.length > SHOWN && `; and ${past.length - SHOWN} more`}.
        </p>
      )}
    </div>
  );
}
