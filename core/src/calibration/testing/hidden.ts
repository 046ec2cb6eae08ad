/** Hidden beans have 5.6 to 8.4 % of water and give it off 0.7 to 1.3 times as fast as is usual; nobody has measured either. */
export const WET = { from: 5.6, to: 8.4 };
export const DRIES = { from: 0.7, to: 1.3 };

/** Hidden ovens differ from the usual one by so much: ln transfer, ln power, ln lag, and the dial in K. */
export const HIDDEN = [0.3, 0.3, 0.45, 4.5];
