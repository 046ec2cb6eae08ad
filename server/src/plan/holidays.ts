/** The calendars of all countries, some megabytes: read when first asked for, so that the server opens sooner. */
const calendars = async () => (await import('date-holidays')).default;

/** A place whose holidays can be kept. */
export interface Place {
  code: string;
  name: string;
}

const named = (found: Record<string, string> | undefined): Place[] =>
  Object.entries(found ?? {})
    .map(([code, name]) => ({ code, name }))
    .sort((a, b) => a.name.localeCompare(b.name));

/** Countries, in a language. */
export async function countries(language: string): Promise<Place[]> {
  const Holidays = await calendars();
  return named(new Holidays().getCountries(language));
}

/** Regions of a country, in a language; none where it has none of its own. */
export async function regions(country: string, language: string): Promise<Place[]> {
  const Holidays = await calendars();
  return named(new Holidays().getStates(country, language));
}

/**
 * Public holidays of a place over the years of two days, `2026-12-25`; those of half a day count whole, since nobody rings a supplier
 * either.
 */
export async function holidaysFrom(
  country: string | null,
  region: string | null,
  fromYear: number,
  toYear: number,
): Promise<string[]> {
  if (country === null) return [];
  const Holidays = await calendars();
  const holidays = region === null ? new Holidays(country) : new Holidays(country, region);
  const days: string[] = [];
  for (let year = fromYear; year <= toYear; year += 1)
    for (const day of holidays.getHolidays(year))
      if (day.type === 'public') {
        // Some last longer than a day.
        const [from, to] = [
          Date.parse(`${day.date.slice(0, 10)}T00:00:00Z`),
          day.end.getTime() - day.start.getTime(),
        ];
        for (let k = 0; k < Math.max(1, Math.round(to / 86_400_000)); k += 1)
          days.push(new Date(from + k * 86_400_000).toISOString().slice(0, 10));
      }
  return [...new Set(days)].sort();
}
