/**
 * What a lot is called, with its harvest where the name does not say it already: people write ‘Nkondo Growers 2026’ and leave the harvest at 2026.
 *
 * @returns the name alone, or name and harvest; what is empty is left out
 * @example lotWords('Nkondo Growers', '2026') // ['Nkondo Growers', '2026']
 */
export function lotWords(name: string, harvest: string): string[] {
  const year = harvest.trim();
  // Between spaces or marks: a plot 20261 is not of 2026.
  const parts = (text: string) =>
    ` ${text
      .toLocaleLowerCase()
      .split(/[\s,;()]+/)
      .filter(Boolean)
      .join(' ')} `;
  const says = parts(name).includes(parts(year));
  return [name.trim(), says ? '' : year].filter((word) => word !== '');
}
