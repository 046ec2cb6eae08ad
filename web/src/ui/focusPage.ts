/** Gives the focus to the page itself, which stays where it is: Tab goes on from its top, and the keys of every page mean what they say. */
export const focusPage = (): void => document.getElementById('main')?.focus({ preventScroll: true });
