/** The calendar day an instant that was made from a day stands for, ISO: a best before, the beginning of a month. */
export const dayOfUtc = (ms: number): string => new Date(ms).toISOString().slice(0, 10);
