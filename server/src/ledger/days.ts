/** Midnight of a day, by the world's clock: what an arrival stands at, of which only the day is known. */
const MIDNIGHT = 'T00:00:00.000Z';

/** The instant something that came on a day stands at. Its hour is nobody's: whoever shows it shows the day, see {@link whenCame}. */
export const cameOn = (day: string): string => `${day}${MIDNIGHT}`;

/** When a parcel was made here, or the day it came: what is of no batch came, or lies as it came. */
export const whenMade = ({ batchId, madeAt }: { batchId: string | null; madeAt: string }): string =>
  batchId === null ? whenCame(madeAt) : madeAt;

/** When something came: the day alone where only the day is known, since that midnight is the day before west of Greenwich; else the instant. */
export const whenCame = (at: string): string => (at.endsWith(MIDNIGHT) ? at.slice(0, -MIDNIGHT.length) : at);
