import type { HolidayCountries, Holidays } from "@chronometra/contract";
import { Failure } from "../shared/failure.ts";

const MOST_YEARS = 30;
const DAY = 86_400_000;

let countries: HolidayCountries | undefined;

/** What knows them is read when they are first asked for: it takes a third of a second. */
const calendarsOf = async () => (await import("date-holidays")).default;

/** Countries and their regions, by name in English. */
export async function holidayCountries(): Promise<HolidayCountries> {
  if (countries !== undefined) return countries;
  const DateHolidays = await calendarsOf();
  const known = new DateHolidays();
  const named = Object.entries(known.getCountries("en"));
  countries = named
    .map(([code, name]) => ({
      code,
      name,
      regions: Object.entries(known.getStates(code, "en") ?? {})
        .map(([region, words]) => ({ code: region, name: words }))
        .sort((a, b) => a.name.localeCompare(b.name)),
    }))
    .sort((a, b) => a.name.localeCompare(b.name));
  return countries;
}

const dayAfter = (date: string, days: number): string =>
  new Date(Date.parse(`${date}T00:00:00Z`) + days * DAY).toISOString().slice(0, 10);

/**
 * The public holidays of a country or region, year by year.
 * @param place `DE`, or `DE-BY` for a region
 */
export async function publicHolidays(place: string, fromYear: number, toYear: number): Promise<Holidays> {
  const [country = "", region] = place.toUpperCase().split("-");
  const entry = (await holidayCountries()).find(({ code }) => code === country);
  if (entry === undefined) throw new Failure("notFound", `No public holidays are known for "${place}".`);
  if (region !== undefined && !entry.regions.some(({ code }) => code.toUpperCase() === region))
    throw new Failure("notFound", `${entry.name} has no region "${region}" with holidays of its own.`);
  if (
    !Number.isInteger(fromYear) ||
    !Number.isInteger(toYear) ||
    fromYear < 1990 ||
    toYear > 2099 ||
    toYear < fromYear ||
    toYear - fromYear >= MOST_YEARS
  )
    throw new Failure("invalid", `Ask for 1 to ${MOST_YEARS} years between 1990 and 2099.`);
  const DateHolidays = await calendarsOf();
  const known = region === undefined ? new DateHolidays(country) : new DateHolidays(country, region);
  const found: { from: string; to: string; name: string }[] = [];
  for (let year = fromYear; year <= toYear; year++) {
    for (const holiday of known.getHolidays(year, "en")) {
      if (holiday.type !== "public") continue;
      const from = holiday.date.slice(0, 10);
      const days = Math.max(1, Math.round((holiday.end.getTime() - holiday.start.getTime()) / DAY));
      found.push({ from, to: dayAfter(from, days - 1), name: holiday.name });
    }
  }
  return found;
}
