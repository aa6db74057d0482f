/** Someone whose days begin and end in a time zone (IANA). */
interface Somewhere {
  readonly timeZone: string;
}

/** Where the installation is, for whoever has not said where they are: `CHRONOMETRA_TIME_ZONE`, or where this machine is. */
export const installationZone = (): string =>
  process.env["CHRONOMETRA_TIME_ZONE"] ?? Intl.DateTimeFormat().resolvedOptions().timeZone;

/** Formats are slow to make, and there are few zones. */
const formats = new Map<string, Intl.DateTimeFormat>();

function formatIn(timeZone: string): Intl.DateTimeFormat {
  let format = formats.get(timeZone);
  if (format === undefined)
    formats.set(
      timeZone,
      (format = new Intl.DateTimeFormat("en-CA", { timeZone, year: "numeric", month: "2-digit", day: "2-digit" })),
    );
  return format;
}

/** The day of an instant where someone is, `YYYY-MM-DD`. */
export const dayOf = ({ timeZone }: Somewhere, at: Date): string => formatIn(timeZone).format(at);

/** Today where someone is, `YYYY-MM-DD`. */
export const todayOf = (who: Somewhere): string => dayOf(who, new Date());

/** Today where the installation is, for what belongs to nobody. */
export const todayHere = (): string => todayOf({ timeZone: installationZone() });

/** Whether a name is a time zone that this machine knows. */
export function isTimeZone(name: string): boolean {
  try {
    return formatIn(name) !== null;
  } catch {
    return false;
  }
}
