/** The market whose rules are shown first: that of the workshop’s money. Another is a tap away. */
export const usualMarket = (currency: string): 'EU' | 'US' => (currency === 'USD' ? 'US' : 'EU');
