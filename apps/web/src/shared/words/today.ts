/** Where the days of whoever is signed in begin and end; until that is known, where the browser is. */
let timeZone: string | undefined;

/** Takes the time zone of whoever is signed in. */
export function keepTimeZone(zone: string | undefined): void {
  timeZone = zone;
}

/** Today where the reader is at home, `YYYY-MM-DD`: the day that the server counts by too. */
export const todayHere = (now = new Date()): string =>
  new Intl.DateTimeFormat("en-CA", {
    year: "numeric",
    month: "2-digit",
    day: "2-digit",
    ...(timeZone === undefined ? {} : { timeZone }),
  }).format(now);
