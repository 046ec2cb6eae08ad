/** Read longer ago than this, a temperature says nothing of what is in an oven or a bowl now, ms. */
export const UNREAD = 10 * 60_000;
