/** Lets the page believe it is somewhere else, as far as dates are written; the way back is returned. */
export function inZone(timeZone: string): () => void {
  const Real = Intl.DateTimeFormat;
  Intl.DateTimeFormat = function (locale?: string, options?: Intl.DateTimeFormatOptions) {
    return new Real(locale, { timeZone, ...options });
  } as unknown as typeof Real;
  return () => {
    Intl.DateTimeFormat = Real;
  };
}
