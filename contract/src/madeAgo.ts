/**
 * Header of an entry that is sent later than it was made, because the server was away or the signal was: how long ago that was, s. An age needs no
 * two clocks to agree; a time would.
 */
export const MADE_AGO = 'made-ago';

/** An entry is taken for at most so old, s. */
export const OLDEST_ENTRY = 90 * 86_400;
