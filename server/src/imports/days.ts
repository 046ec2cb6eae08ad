/** The hour an old day's work begins at; what followed is an hour apart. */
const FIRST_HOUR = 8;

/** An instant on the day of an old table, so many hours after its work began. */
export const instantOn = (day: string, hours = 0): string =>
  `${day}T${String(FIRST_HOUR + hours).padStart(2, '0')}:00:00.000Z`;

/** An instant, or where it lies later so many minutes before another: what was done before now stays in its order. */
export const notAfter = (instant: string, now: string, minutesBefore: number): string => {
  const latest = new Date(Date.parse(now) - minutesBefore * 60_000).toISOString();
  return instant < latest ? instant : latest;
};
