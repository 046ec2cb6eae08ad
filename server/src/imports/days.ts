/** The hour an old day's work begins at; what followed is an hour apart. */
const FIRST_HOUR = 8;

/** An instant on the day of an old table, so many hours after its work began. */
export const instantOn = (day: string, hours = 0): string =>
  `${day}T${String(FIRST_HOUR + hours).padStart(2, '0')}:00:00.000Z`;
