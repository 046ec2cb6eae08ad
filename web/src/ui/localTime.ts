import { format } from 'date-fns';

/** An instant as a field for a day and a time holds it, in the reader's own time: `2026-11-27T09:30`. */
export const localTime = (at: Date): string => format(at, "yyyy-MM-dd'T'HH:mm");

/** What such a field holds, as an instant; null where it holds none. */
export const instantAt = (text: string): string | null => {
  const at = new Date(text);
  return Number.isNaN(at.getTime()) ? null : at.toISOString();
};
