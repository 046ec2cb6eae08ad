/**
 * A day as it stands on paper: of an instant, where the workshop stands; of a day, that day wherever it is read.
 *
 * @param at an ISO instant, or a day like `2026-10-01`
 * @throws RangeError for what is neither, and for a time zone that is none
 * @example paperDay('2026-10-31T23:30:00Z', 'en', 'Europe/Berlin') // '1 Nov 2026'
 */
export function paperDay(at: string, language: 'en' | 'de', timeZone: string): string {
  const isDay = at.length === 10;
  return new Intl.DateTimeFormat(language === 'de' ? 'de-DE' : 'en-GB', {
    dateStyle: 'medium',
    timeZone: isDay ? 'UTC' : timeZone,
  }).format(new Date(isDay ? `${at}T00:00:00Z` : at));
}
